// The jig that teachers worked out by hand for every role, at 80 dotted quarters; and who plays it.
import { derive, newWork } from "../core/ensemble";
import { materialOf } from "../core/ensemble/group/material";
import { readAbc } from "../core/formats";
import type { Learner, Material } from "../core/grading";
import type { Level } from "../core/instruments";
import { beatTicks, type Tune } from "../core/score";

const JIG = `X:1
T:Test
R:jig
M:6/8
L:1/8
Q:3/8=80
K:D
"D"F2A dAF|"G"G2B "D"AFD|"Em"E2G "A"AGE|"D"FAd "A"c2A|
"D"F2A dAF|"G"G2B "D"AFD|"G"BdB "A"AGE|"D"F2D D3|]
`;

/** What parts of a tune are written from, at so many felt beats a minute. */
export function materialFor(tune: Tune, bpm: number, dance: string | null): Material {
  const { analysis, plan } = derive(newWork(tune));
  return materialOf(analysis, plan, 60 / (bpm * beatTicks(tune.metre)), dance);
}
export const jig = materialFor((readAbc(JIG).tunes[0] as { tune: Tune }).tune, 80, "jig");
/** Ticks of an eighth. */
export const EIGHTH = 1680;

/** Someone who plays an instrument at a level. */
export const learner = (on: string, level: Level, more: Partial<Learner> = {}): Learner => ({
  name: "Ann",
  instrument: on,
  tuning: null,
  level,
  can: [],
  cannot: [],
  seat: "",
  notes: "",
  ...more,
});
