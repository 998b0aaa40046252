// The rooms in the order the work is done. A new room is a folder under rooms/ and one line here.

import { bench } from "../rooms/bench/routes.tsx";
import { data } from "../rooms/data/routes.tsx";
import { heat } from "../rooms/heat/routes.tsx";
import { hold } from "../rooms/hold/routes.tsx";
import { kit } from "../rooms/kit/routes.tsx";
import { limits } from "../rooms/limits/routes.tsx";
import { plan } from "../rooms/plan/routes.tsx";
import { roll } from "../rooms/roll/routes.tsx";
import { runs } from "../rooms/runs/routes.tsx";
import { walk } from "../rooms/walk/routes.tsx";
import type { Room } from "./room.ts";

export const ROOMS: readonly Room[] = [bench, kit, plan, roll, runs, heat, walk, hold, limits, data];
