import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";
import { KEPT, KEPT_IN } from "./src/shared/api/keptAnswers.ts";

const DAY_SEC = 86_400;

/**
 * Where a service worker may run, the page and the last answers are there without the server. The network always comes first; what is
 * kept is only for when it fails. A new version waits until every window of the old one is closed: nothing changes under a run.
 */
const offline = VitePWA({
  strategies: "generateSW",
  injectRegister: false,
  manifest: {
    name: "Keep Rolling",
    short_name: "Keep Rolling",
    description: "Log endurance tests of video cameras; nothing pressed is lost.",
    start_url: "/",
    display: "standalone",
    icons: [{ src: "/icon.svg", sizes: "any", type: "image/svg+xml" }],
  },
  workbox: {
    inlineWorkboxRuntime: true,
    sourcemap: false,
    clientsClaim: true,
    globPatterns: ["assets/*.{js,css,woff2,wasm}", "index.html", "icon.svg"],
    navigateFallback: null,
    directoryIndex: null,
    runtimeCaching: [
      {
        urlPattern: ({ request }) => request.mode === "navigate",
        handler: "NetworkFirst",
        options: { cacheName: "page", networkTimeoutSeconds: 8, precacheFallback: { fallbackURL: "index.html" } },
      },
      {
        urlPattern: KEPT,
        handler: "NetworkFirst",
        options: { cacheName: KEPT_IN, networkTimeoutSeconds: 8, expiration: { maxEntries: 200, maxAgeSeconds: 30 * DAY_SEC } },
      },
    ],
  },
});

export default defineConfig({
  plugins: [react(), tailwindcss(), offline],
  // Jobs are loaded by the worker when first asked for.
  worker: { format: "es" },
  html: { cspNonce: "__NONCE__" },
  // Fonts are files of our own origin, never data: the page's policy allows nothing else.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
});
