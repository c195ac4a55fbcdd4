// Short tunes for tests, as text.
import { readAbc } from "../core/formats";
import type { Tune } from "../core/score";

/** A tune from its music, with a header of defaults. Throws what the reader refuses. */
export function tuneOf(
  music: string,
  header: { key?: string; metre?: string; unit?: string; more?: string } = {},
): Tune {
  const { key = "D", metre = "4/4", unit = "1/8", more = "" } = header;
  const { tunes, refused } = readAbc(`X:1\nT:Test\n${more}M:${metre}\nL:${unit}\nK:${key}\n${music}\n`);
  if (refused[0]) throw refused[0].error;
  return (tunes[0] as { tune: Tune }).tune;
}
