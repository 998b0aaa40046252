// Parts of a page that come after it, in code of their own. They stand beside the job: whatever happens to them, the page stays.

import type { ComponentType, ReactNode } from "react";
import { Component, lazy, Suspense } from "react";
import { untilLoaded } from "../api/untilLoaded.ts";

/** A part of a page, shown in `Later`. */
export const laterPart = <P extends object>(load: () => Promise<ComponentType<P>>) =>
  lazy(async () => ({ default: await untilLoaded(load) }));

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
