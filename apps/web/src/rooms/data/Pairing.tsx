// Bringing a phone to the bench: where to find this server from another device, as a code to scan.

import { dataApi } from "./api.ts";
import { formatSpan } from "@keep-rolling/core/format";
import { QRCodeSVG } from "qrcode.react";
import { useEffect, useState } from "react";
import { sentenceOf } from "../../shared/api/api.ts";
import { serverNowMs } from "../../record/device.ts";
import { Button, Loading, Note, Trouble } from "../../shared/ui/parts.tsx";

export function Pairing() {
  const { data, error, refetch } = dataApi.usePairingQuery();
  if (error !== undefined) return <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  if (data === undefined) return <Loading what="the addresses" />;
  if (data.addresses.length === 0)
    return (
      <div className="space-y-2">
        <p>Only this computer can connect now. To use a phone beside the camera, stop and start with:</p>
        <p>
          <code className="num">KEEP_ROLLING_PASSPHRASE="ten letters or more" npm start -- --host 0.0.0.0</code>
        </p>
        <p className="text-sm text-soft">Both must be on the same network. Nothing leaves it.</p>
      </div>
    );
  return <Code addresses={data.addresses} />;
}

function Code({ addresses }: { addresses: readonly string[] }) {
  const [make, { data, error }] = dataApi.usePairingCodeMutation();
  const [address, setAddress] = useState(addresses[0] ?? "");
  const leftMs = useLeft(data?.untilMs);
  const url = data === undefined ? null : `${address}/pair#${data.code}`;
  return (
    <div className="space-y-3">
      {addresses.length > 1 && (
        <fieldset>
          <legend className="text-sm font-semibold">Which network is the phone on?</legend>
          {addresses.map((a) => (
            <label key={a} className="mr-4 inline-flex items-center gap-2">
              <input type="radio" name="address" checked={a === address} onChange={() => setAddress(a)} /> <span className="num">{a}</span>
            </label>
          ))}
        </fieldset>
      )}
      <Button onClick={() => void make()}>{url === null ? "Show a code to scan" : "Make another code"}</Button>
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
      {url !== null && leftMs > 0 && (
        <div className="flex flex-wrap items-end gap-5">
          <QRCodeSVG value={url} size={208} marginSize={4} level="M" title="Code for the phone" className="bg-white" />
          <p className="max-w-xs text-sm text-soft">
            Scan it with the phone's camera. It lets one device in, once, for another {formatSpan(leftMs)}. Or open{" "}
            <span className="num text-ink">{address}</span> there and type the passphrase.
          </p>
        </div>
      )}
      {url !== null && leftMs <= 0 && <Note>That code has run out. Make another one.</Note>}
      <Note>Over plain http on a network this can be overheard. Use a network you trust.</Note>
    </div>
  );
}

function useLeft(untilMs: number | undefined): number {
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  return untilMs === undefined ? 0 : Math.max(0, untilMs - serverNowMs());
}
