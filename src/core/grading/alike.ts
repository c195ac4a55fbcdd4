import { breaches } from "./check";
import type { Material, Phrased, PartNote, Request } from "./write";

/** Whether two phrases have bars of the same lengths and the same chords at the same places. */
function sameGround({ places, chords }: Material, a: Phrased, b: Phrased): boolean {
  if (a.to - a.from !== b.to - b.from) return false;
  const bars = Array.from({ length: a.to - a.from + 1 }, (_, i) => i);
  const ground = (bar: number) =>
    JSON.stringify([
      places[bar]?.ticks,
      places[bar]?.offset,
      chords.filter((c) => c.bar === bar).map(({ at, ticks, symbol }) => [at, ticks, symbol]),
    ]);
  return bars.every((i) => ground(a.from + i) === ground(b.from + i));
}

/**
 * A part with like phrases alike: a phrase that is an earlier one over again has that one's notes, where its chords are
 * the same too and no limit is broken at the joins. A drum's fills stand where strains end, and stay there.
 */
export function alike(material: Material, request: Request, notes: readonly PartNote[]): PartNote[] {
  const { role, on, limits } = request;
  const { places, tick, phrases } = material;
  if (role === "hand drum") return [...notes];
  const broken = (of: readonly PartNote[]) => breaches({ role, on, limits, notes: of, places, tick }).length;
  let now = [...notes];
  for (const phrase of phrases) {
    const model = phrase.like === null ? undefined : phrases[phrase.like];
    if (!model || !sameGround(material, phrase, model)) continue;
    const within = ({ from, to }: Phrased) => now.filter((n) => n.bar >= from && n.bar <= to);
    const own = within(phrase);
    const copied = within(model).map((n) => ({ ...n, bar: n.bar + phrase.from - model.from }));
    if (JSON.stringify(own) === JSON.stringify(copied)) continue;
    const next = [...now.filter((n) => !own.includes(n)), ...copied].sort((a, b) => a.bar - b.bar || a.at - b.at);
    if (broken(next) <= broken(now)) now = next;
  }
  return now;
}
