// What earlier runs of a cell say of a run under way.

import type { LiveAnswer, LiveQuestion } from "../../workers/jobs/liveChance.ts";
import { pool } from "../../workers/pool.ts";
import type { Reading } from "./useAnswer.ts";
import { useAnswer } from "./useAnswer.ts";

const ask = (question: LiveQuestion, signal: AbortSignal): Promise<LiveAnswer> => pool.call("liveChance", question, { signal });

export const useLive = (question: LiveQuestion | null): Reading<LiveAnswer> => useAnswer(question, ask);
