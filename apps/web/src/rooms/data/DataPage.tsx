// The Data room: everything out, archives in, devices, and what was set aside.

import type { ReactNode } from "react";
import { useState } from "react";
import { PageHead } from "../../shared/ui/parts.tsx";
import { ImportPanel } from "./ImportPanel.tsx";
import { Logins } from "./Logins.tsx";
import { Pairing } from "./Pairing.tsx";
import { SetAside } from "./SetAside.tsx";
import { ThisDevice } from "./ThisDevice.tsx";

export function DataPage() {
  const [packing, setPacking] = useState(false);
  return (
    <>
      <PageHead title="Data" sub="The record is yours: take it out whole, bring it in elsewhere, keep copies." />
      <div className="grid gap-x-12 gap-y-7 lg:grid-cols-2">
        <div className="min-w-0 space-y-7">
          <Part id="out" title="Take everything out">
            <p>
              One zip with every fact of this bench: JSON lines, CSV twins for spreadsheets, files, checksums. It says itself what is in it.
            </p>
            <a
              onClick={() => setPacking(true)}
              className="mt-3 inline-block rounded-md border border-cool bg-cool px-4 py-2 font-semibold text-ground no-underline"
              href="/api/archive"
              download
            >
              Download the archive
            </a>
            {packing && (
              <p role="status" className="mt-2 text-sm text-soft">
                It is being packed; the download begins by itself. A million readings take about half a minute, and runs go on meanwhile.
              </p>
            )}
          </Part>
          <Part id="in" title="Bring an archive in">
            <p className="mb-3">
              It is merged by id: what is here stays, what is new comes in, all or nothing. First you see what it would do.
            </p>
            <ImportPanel />
          </Part>
          <Part id="aside" title="Set aside">
            <SetAside />
          </Part>
        </div>
        <div className="min-w-0 space-y-7">
          <Part id="phone" title="A phone beside the camera">
            <Pairing />
          </Part>
          <Logins />
          <Part id="device" title="This device">
            <ThisDevice />
          </Part>
          <Part id="backup" title="Copies of the bench">
            <p>
              <code className="num">npm run backup</code> writes a copy of the database and the pictures while it runs;{" "}
              <code className="num">npm run restore -- FILE</code> puts one back. Keep copies on another disk.
            </p>
          </Part>
        </div>
      </div>
    </>
  );
}

function Part({ id, title, children }: { id: string; title: string; children: ReactNode }) {
  return (
    <section aria-labelledby={id}>
      <h2 id={id} className="mb-2 border-b border-rule2 pb-1">
        {title}
      </h2>
      {children}
    </section>
  );
}
