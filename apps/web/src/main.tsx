import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/bricolage-grotesque/standard.css";
import "./app/styles.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { RouterProvider } from "react-router";
import { startOfflineCopy } from "./record/offlineCopy.ts";
import { startDevice } from "./record/device.ts";
import { createRouter } from "./app/router.tsx";
import { createStore } from "./app/store.ts";
import { forgetOldDrafts } from "./shared/drafts/drafts.ts";
import { startStream } from "./record/stream.ts";

const root = document.getElementById("root");
if (root === null) throw new Error("the page has no root");
const store = createStore();
forgetOldDrafts(Date.now());
void startDevice(store);
startStream(store);
startOfflineCopy(store);
createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={createRouter()} />
    </Provider>
  </StrictMode>,
);
