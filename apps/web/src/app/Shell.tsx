// The frame: rooms in the order the work is done, one notice line, and the line that tells whether every mark is safe.

import { kitApi } from "../shared/kit/api.ts";
import { useState } from "react";
import { useDispatch, useSelector } from "react-redux";
import { NavLink, Outlet } from "react-router";
import { sentenceOf } from "../shared/api/api.ts";
import { Later, laterPart } from "../shared/ui/Later.tsx";
import { Button } from "../shared/ui/parts.tsx";
import { PinnedPlace } from "../shared/ui/Pinned.tsx";
import { saveJson } from "../shared/ui/saveFile.ts";
import { useDevice } from "../record/device.ts";
import { Door } from "./Door.tsx";
import { noticed, noticeGone } from "../shared/notice/notice.ts";
import { ROOMS } from "./rooms.ts";
import type { RootState } from "./store.ts";
import { usePageChange } from "./usePageChange.ts";

/** After the first view, which it would make larger. */
const SettingsMenu = laterPart(async () => (await import("./SettingsMenu.tsx")).SettingsMenu);

const NAV = ROOMS.flatMap((room) => room.nav ?? []);

export function Shell() {
  usePageChange();
  const [pinned, setPinned] = useState<HTMLElement | null>(null);
  return (
    <div className="flex min-h-dvh flex-col md:grid md:grid-cols-[7rem_1fr] print:block">
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-sheet focus:p-3">
        To the content
      </a>
      <nav
        aria-label="Rooms"
        className="no-print flex items-center border-b border-rule md:sticky md:top-0 md:block md:h-dvh md:overflow-y-auto md:border-r md:border-b-0 md:pt-5"
      >
        <p className="hidden px-4 pb-5 font-head text-lg leading-none font-bold tracking-tight md:block">
          Keep
          <br />
          Rolling
        </p>
        <ul className="flex flex-1 overflow-x-auto md:block">
          {NAV.map(({ to, name }) => (
            <li key={to}>
              <NavLink
                to={to}
                end={to === "/"}
                className={({ isActive }) =>
                  `block border-b-4 px-[0.55rem] py-2.5 no-underline sm:px-3 md:border-b-0 md:border-l-4 md:pl-4 ${isActive ? "border-here bg-sheet font-semibold text-ink" : "border-transparent text-soft hover:text-ink"}`
                }
              >
                {name}
              </NavLink>
            </li>
          ))}
        </ul>
        <div className="px-2 md:mt-6 md:px-3">
          <Later waiting={<span className="block h-9" />}>
            <SettingsMenu />
          </Later>
        </div>
      </nav>
      <div className="flex min-w-0 flex-1 flex-col px-4 pt-4 md:px-7">
        <NoticeLine />
        <main id="main" tabIndex={-1} className="flex-1 pb-6 outline-none">
          <PinnedPlace value={pinned}>
            <Door>
              <Outlet />
            </Door>
          </PinnedPlace>
        </main>
        <footer className="group no-print hairline bg-ground py-2 text-sm text-soft has-[.pinned:not(:empty)]:sticky has-[.pinned:not(:empty)]:bottom-0">
          <div ref={setPinned} className="pinned text-base text-ink" />
          <div className="flex flex-wrap gap-x-6 gap-y-1">
            <SavedLine />
            <span className="max-sm:group-has-[.pinned:not(:empty)]:hidden md:ml-auto">
              The maker's manual and local codes come before anything said here.
            </span>
          </div>
        </footer>
      </div>
    </div>
  );
}

/** "all 14 marks saved" / "3 marks waiting, kept on this device" / "set aside: 1". */
function SavedLine() {
  const { ready, online, trouble, outbox } = useDevice();
  if (!ready) return <span role="status">opening this device's store</span>;
  const total = outbox.entries.length;
  const many = (n: number): string => (n === 1 ? "1 mark" : `${n} marks`);
  const away = online ? "" : `; ${lowerFirst(trouble ?? "the server cannot be reached")}`;
  const unsafe = !outbox.lasting || outbox.notKept !== null;
  return (
    <span role="status" data-testid="saved" className={unsafe || outbox.setAside > 0 ? "font-semibold text-alert" : ""}>
      {outbox.keeping > 0 && `${many(outbox.keeping)} not kept yet: this device's store is slow; keep this page open · `}
      {outbox.waiting > 0
        ? `${many(outbox.waiting)} waiting, ${unsafe ? "not kept on this device: keep this page open" : "kept on this device"}${away}`
        : total === 0
          ? `nothing waiting${away}`
          : `all ${many(total - outbox.keeping)} saved`}
      {outbox.setAside > 0 && `; set aside: ${outbox.setAside}`}
      {unsafe && " · this browser gives no lasting store "}
      {(unsafe || outbox.setAside > 0) && (
        <Button tone="quiet" onClick={() => saveJson("keep-rolling-marks.json", outbox.entries)}>
          Download the marks
        </Button>
      )}
    </span>
  );
}

const lowerFirst = (text: string): string => `${text.charAt(0).toLowerCase()}${text.slice(1)}`;

function NoticeLine() {
  const notice = useSelector((state: RootState) => state.notice);
  const dispatch = useDispatch();
  const [save] = kitApi.useSaveKitMutation();
  return (
    <div role="status" className="no-print">
      {notice !== null && (
        <p className="mb-3 flex items-center gap-3 border-l-4 border-cool py-1 pl-3">
          {notice.text}
          {notice.undo !== null && (
            <Button
              tone="quiet"
              onClick={() => {
                const { undo } = notice;
                dispatch(noticeGone());
                if (undo !== null)
                  void save(undo).then(({ error }) => {
                    if (error !== undefined) dispatch(noticed({ text: `Not undone. ${sentenceOf(error)}`, undo }));
                  });
              }}
            >
              Undo
            </Button>
          )}
          <Button tone="quiet" onClick={() => dispatch(noticeGone())}>
            Close
          </Button>
        </p>
      )}
    </div>
  );
}
