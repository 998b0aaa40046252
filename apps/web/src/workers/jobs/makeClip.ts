import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { rendererOf } from "@keep-rolling/core/stand-ins/takes";
import { BufferTarget, Output, VideoSample, VideoSampleSource, WebMOutputFormat } from "mediabunny";
import type { JobContext } from "../jobContext.ts";

const BITRATE = 4_000_000;

/** A made take as a WebM file, by the browser's own encoder: grey, as it is measured. */
export async function run({ made, name }: { made: MadeTake; name: string }, { onProgress }: JobContext): Promise<File> {
  const { width, height, rateHz, frames } = made;
  const renderer = rendererOf(made);
  const image = { width, height, data: new Float32Array(width * height) };
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new VideoSampleSource({ codec: "vp9", bitrate: BITRATE });
  output.addVideoTrack(source, { frameRate: rateHz });
  await output.start();
  const chroma = Math.ceil(width / 2) * Math.ceil(height / 2) * 2;
  for (let n = 0; n < frames; n++) {
    renderer.draw(n, image);
    const bytes = new Uint8Array(width * height + chroma).fill(128);
    bytes.set(Uint8Array.from(image.data));
    const sample = new VideoSample(bytes, {
      format: "I420",
      codedWidth: width,
      codedHeight: height,
      timestamp: n / rateHz,
      duration: 1 / rateHz,
    });
    await source.add(sample);
    sample.close();
    onProgress(n + 1, frames);
  }
  await output.finalize();
  return new File([target.buffer ?? new ArrayBuffer(0)], name, { type: "video/webm" });
}
