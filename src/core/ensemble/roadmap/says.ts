import type { Column, Roadmap } from "./model";

const TIMES = ["", "once", "twice", "three times", "four times", "five times", "six times"];
const ORDER = ["", "first", "second", "third", "fourth", "fifth", "sixth"];
const listed = (all: readonly string[]): string =>
  all.length > 1 ? `${all.slice(0, -1).join(", ")} and ${all.at(-1)}` : (all[0] ?? "");
const capital = (text: string): string => `${text[0]?.toUpperCase()}${text.slice(1)}`;

/** Strains of one time through in which someone rests: each once, with its turn where only one of several is meant. */
function restedIn(columns: readonly Column[], id: string): string[] {
  const strains = [...new Set(columns.map((c) => c.strain))];
  return strains.flatMap((strain) => {
    const own = columns.filter((c) => c.strain === strain);
    const rests = own.filter((c) => !c.plays.includes(id));
    if (rests.length === 0) return [];
    if (rests.length === own.length) return [strain];
    return rests.map((c) => `the ${ORDER[c.turn] ?? `${c.turn}th`} ${strain}`);
  });
}

/** When someone plays, as they would be told: "Three times through. The first time rest in A." */
export function whenWords({ columns, times, tag }: Roadmap, id: string): string {
  const passes = [...new Set(columns.map((c) => c.pass))];
  const rests = passes.flatMap((pass) => {
    const own = columns.filter((c) => c.pass === pass);
    const strains = restedIn(own, id);
    if (strains.length === 0) return [];
    const all = own.every((c) => !c.plays.includes(id));
    const when = times > 1 ? `the ${ORDER[pass]} time ` : "";
    return [`${when}rest${all ? "" : ` in ${listed(strains)}`}`];
  });
  const whole = `${capital(TIMES[times] ?? `${times} times`)} through`;
  const end = tag > 0 ? ` The last ${tag === 1 ? "bar comes" : `${tag} bars come`} once more at the end.` : "";
  if (rests.length === 0) return `${whole}: you play all of it.${end}`;
  return `${whole}. ${capital(rests.join("; "))}.${end}`;
}
