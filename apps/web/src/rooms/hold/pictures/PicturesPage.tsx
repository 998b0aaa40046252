// Bringing in a card's pictures: drop them, see where each lies, say what the camera did not, and choose the spot to be looked at.

import type { HoldPicture, PictureBody, PictureFields } from "@keep-rolling/core/holds";
import { useEffect, useState, useSyncExternalStore } from "react";
import { Link } from "react-router";
import { pressAll } from "../../../record/sessions.ts";
import { DropZone } from "../../../shared/clips/DropZone.tsx";
import { filesIn } from "../../../shared/clips/dropped.ts";
import { Progress } from "../../../shared/ui/Progress.tsx";
import { Button, Note, PageHead } from "../../../shared/ui/parts.tsx";
import type { OpenedHold } from "../useHold.tsx";
import { OpenHold } from "../useHold.tsx";
import { MakePictures } from "./MakePictures.tsx";
import { PictureList } from "./PictureList.tsx";
import type { Item, PictureQueue } from "./queue.ts";
import { pictureQueueOf } from "./queue.ts";
import { SpotChoice } from "./SpotChoice.tsx";
import { problemWords, stageWords, unequalWords } from "./pictureWords.ts";

export const PicturesPage = () => <OpenHold>{(opened) => <Shown {...opened} />}</OpenHold>;

function Shown(opened: OpenedHold) {
  const { id, clock, hold, plan, begun } = opened;
  const queue = pictureQueueOf(id);
  useEffect(() => {
    queue.hook({
      pictures: hold.pictures,
      add: (pictures: readonly PictureBody[]) =>
        pressAll(
          id,
          clock,
          pictures.map((p) => ["picture", p] as const),
        ),
      cut: (picture: HoldPicture, cuts) => pressAll(id, clock, [["correction", { cuts }, picture.id]]),
    });
  }, [queue, hold.pictures, id, clock]);
  const correct = (pictures: readonly HoldPicture[], fields: (p: HoldPicture, i: number) => PictureFields | null): void =>
    void pressAll(
      id,
      clock,
      pictures.flatMap((p, i) => {
        const body = fields(p, i);
        return body === null ? [] : [["correction", body, p.id] as const];
      }),
    );
  const counted = hold.pictures.filter((p) => p.counts);
  const unsaid = counted.filter((p) => p.setting === null);
  return (
    <div className="max-w-5xl">
      <PageHead
        title="Pictures of this test"
        sub={`${plan.lensName} at ${plan.focalMm} mm. They are read on this device and stay where they are; kept are a small copy and five squares of each at full size, without position or serial number.`}
      >
        <Link to={`/hold/${id}`}>The test</Link>
        {counted.length > 0 && <Link to={`/hold/${id}/table`}>Table of shots</Link>}
      </PageHead>
      <Drop queue={queue} />
      {begun?.clockId === "rehearsal" && <MakePictures id={id} plan={plan} queue={queue} has={hold.pictures.length} />}
      <Queue queue={queue} />
      {unequalWords(hold.unequal).map((w) => (
        <Note key={w}>{w}</Note>
      ))}
      {unsaid.length > 0 && (
        <Note tone="alert">
          {`${unsaid.length} ${unsaid.length === 1 ? "picture does" : "pictures do"} not say whether the stabiliser was off or on, and the card does not either: say it below, or they stay out of what is read.`}
        </Note>
      )}
      {hold.pictures.length > 0 && (
        <>
          <SpotChoice id={id} pictures={counted} queue={queue} />
          <PictureList plan={plan} pictures={hold.pictures} correct={correct} />
        </>
      )}
    </div>
  );
}

function Drop({ queue }: { queue: PictureQueue }) {
  const add = (files: readonly File[]): void => queue.add(files);
  return (
    <DropZone onDrop={(data) => void filesIn(data).then(add)}>
      <label>
        Drop pictures or folders here (JPEG, PNG, WebP; raw by the JPEG inside), or choose them:{" "}
        <input
          className="max-w-full"
          type="file"
          multiple
          accept="image/*,.jpg,.jpeg,.png,.webp,.dng,.tif,.tiff"
          onChange={(event) => {
            add([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
      </label>
      <p className="mt-1 text-sm text-soft">
        Dropped again they are known by their content, and another spot of them can be cut. Two at a time; a picture of 60 megapixels takes
        up to a quarter of a gigabyte while it is read.
      </p>
    </DropZone>
  );
}

const OVER: readonly Item["stage"][] = ["done", "here already", "at hand again", "failed"];
function Queue({ queue }: { queue: PictureQueue }) {
  const items = useSyncExternalStore(queue.subscribe, queue.items);
  const [all, setAll] = useState(false);
  if (items.length === 0) return null;
  const over = items.filter((i) => OVER.includes(i.stage)).length;
  const failed = items.filter((i) => i.stage === "failed");
  const shown = all ? items : failed;
  const read = over === items.length ? `${over} ${over === 1 ? "picture" : "pictures"} read` : `${over} of ${items.length} pictures read`;
  const said = failed.length > 0 ? `${read}, ${failed.length} left out` : read;
  return (
    <section aria-labelledby="read" className="mt-4">
      <h2 id="read">{said}</h2>
      <p role="status" className="sr-only">
        {over === items.length ? said : ""}
      </p>
      <Progress label="All pictures" value={over} max={items.length} />
      <ul>
        {shown.map((item) => (
          <li key={item.key} className="hairline flex flex-wrap gap-x-4 py-1">
            <span className="num min-w-0 flex-1 truncate">{item.name}</span>
            <span className={item.stage === "failed" ? "text-alert" : "text-soft"}>
              {item.problem === null ? stageWords(item.stage) : problemWords(item.problem)}
            </span>
          </li>
        ))}
      </ul>
      <Button tone="quiet" onClick={() => setAll(!all)}>
        {all ? "Only what was left out" : "Each of them"}
      </Button>
    </section>
  );
}
