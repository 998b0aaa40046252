// Single frames of a small clip, exactly the one asked for: decoded here, never sought by a player. A group of frames (from one key frame to the
// next) is decoded at once and kept while it is near; what is far is let go.

import { BlobSource, EncodedPacketSink, Input, VideoSampleSink, WEBM } from "mediabunny";

export interface ClipFrames {
  /** When each frame is shown, s from the clip's first, rising. */
  timesSec: readonly number[];
  widthPx: number;
  heightPx: number;
  /** Null when it cannot be decoded. */
  at: (frame: number) => Promise<ImageBitmap | null>;
  close: () => void;
}

/** Groups kept at once: where one looks, and where one is going. */
const GROUPS = 3;

/** Null when it holds no picture this browser decodes. */
export async function openFrames(blob: Blob): Promise<ClipFrames | null> {
  const input = new Input({ source: new BlobSource(blob), formats: [WEBM] });
  const track = await input.getPrimaryVideoTrack().catch(() => null);
  if (track === null || !(await track.canDecode())) {
    input.dispose();
    return null;
  }
  const starts: number[] = [];
  const stamps: number[] = [];
  for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true })) {
    if (packet.type === "key") starts.push(stamps.length);
    stamps.push(packet.timestamp);
  }
  const sink = new VideoSampleSink(track);
  const groups = new Map<number, Promise<ReadonlyMap<number, ImageBitmap>>>();
  const groupOf = (frame: number): number => starts.findLastIndex((s) => s <= frame);
  const forget = (group: number): void => {
    void groups.get(group)?.then((frames) => frames.forEach((f) => f.close()));
    groups.delete(group);
  };
  const read = async (group: number): Promise<ReadonlyMap<number, ImageBitmap>> => {
    const [from, to] = [starts[group] ?? 0, starts[group + 1] ?? stamps.length];
    const frames = new Map<number, ImageBitmap>();
    let frame = from;
    for await (const sample of sink.samples(stamps[from], stamps[to] ?? Number.POSITIVE_INFINITY)) {
      const picture = sample.toVideoFrame();
      if (frame < to) frames.set(frame, await createImageBitmap(picture));
      picture.close();
      sample.close();
      frame++;
    }
    return frames;
  };
  const ask = (group: number): Promise<ReadonlyMap<number, ImageBitmap>> => {
    const known = groups.get(group);
    const asked = known ?? read(group).catch(() => new Map<number, ImageBitmap>());
    // The latest asked for is the last to go.
    groups.delete(group);
    groups.set(group, asked);
    for (const old of [...groups.keys()].slice(0, Math.max(0, groups.size - GROUPS))) forget(old);
    return asked;
  };
  const first = stamps[0] ?? 0;
  return {
    timesSec: stamps.map((t) => t - first),
    widthPx: await track.getDisplayWidth(),
    heightPx: await track.getDisplayHeight(),
    at: async (frame) => {
      const group = groupOf(frame);
      if (group < 0 || frame >= stamps.length) return null;
      const found = await ask(group);
      // Towards the end of a group the next one is made ready.
      if (frame - (starts[group] ?? 0) > found.size / 2 && starts[group + 1] !== undefined) void ask(group + 1);
      return found.get(frame) ?? null;
    },
    close: () => {
      for (const group of [...groups.keys()]) forget(group);
      input.dispose();
    },
  };
}
