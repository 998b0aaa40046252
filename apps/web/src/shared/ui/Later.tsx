// Parts of a page that come after it, in code of their own. They stand beside the job: whatever happens to them, the page stays.

import type { ComponentType, ReactNode } from "react";
import { Component, lazy, Suspense } from "react";

const FIRST_MS = 2000;
const LONGEST_MS = 10_000;

/** A part of a page whose code is asked for again until it comes: a device on a network loses its server now and then. */
export const laterPart = <P extends object>(load: () => Promise<ComponentType<P>>) =>
  lazy(async () => ({ default: await untilLoaded(load) }));

/** Rejects only by an error of the code itself. */
export async function untilLoaded<T>(load: () => Promise<T>): Promise<T> {
  for (let waitMs = FIRST_MS; ; waitMs = Math.min(LONGEST_MS, 2 * waitMs)) {
    try {
      return await load();
    } catch (error) {
      if (!isNotLoaded(error)) throw error;
    }
    await new Promise((done) => setTimeout(done, waitMs));
  }
}

/** True where code did not come over the network. Browsers word it each in their own way. */
export const isNotLoaded = (error: unknown): boolean =>
  error instanceof Error && /dynamically imported module|Importing a module|module script/i.test(error.message);

interface Props {
  children: ReactNode;
  /** Shown until the part is there. */
  waiting?: ReactNode;
  /** Shown in place of a part that threw. */
  failed?: ReactNode;
}

/** Holds parts that come later. */
export class Later extends Component<Props, { threw: boolean }> {
  static getDerivedStateFromError = () => ({ threw: true });
  override state = { threw: false };
  override render() {
    const { children, waiting = null, failed = waiting } = this.props;
    return this.state.threw ? failed : <Suspense fallback={waiting}>{children}</Suspense>;
  }
}
