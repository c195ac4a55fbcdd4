import { type Work, MOST_OWN, withInstruments } from "../core/ensemble";
import { Instrument, type OwnDraft, type OwnFault, readOwn } from "../core/instruments";
import { type Db, dropInstrument, keepInstrument, ownInstruments } from "../db";
import { Refusal } from "./answer";

/** A teacher's own instruments; what is stored and no longer holds together is passed over. */
export const instrumentsOf = (db: Db): Instrument[] =>
  ownInstruments(db).flatMap(({ made }) => {
    const found = Instrument.safeParse(JSON.parse(made));
    return found.success ? [found.data] : [];
  });

/** What became of an instrument that was written: all there are now, or what is wrong with it by field. */
export type KeptInstrument = { kept: Instrument[] } | { faults: OwnFault[] };

/** Keeps an instrument as it was written, in the place of the one called `before`. */
export function keepOwn(db: Db, draft: OwnDraft, before: string | null): KeptInstrument {
  const read = readOwn(draft);
  if ("faults" in read) return read;
  const { made } = read;
  const own = instrumentsOf(db);
  const same = (name: string) => name.toLowerCase() === made.name.toLowerCase();
  const another = own.find((i) => same(i.name) && i.name !== before);
  if (another) return { faults: [{ field: "name", words: `There is one called ${another.name} already.` }] };
  if (own.length >= MOST_OWN && before === null)
    throw new Refusal(`You have ${MOST_OWN} instruments of your own. Take one away first.`);
  keepInstrument(db, made.name, JSON.stringify(made), before);
  return { kept: instrumentsOf(db) };
}

/** Takes an own instrument away; the catalogue's of its name stands again. */
export function dropOwn(db: Db, name: string): Instrument[] {
  dropInstrument(db, name);
  return instrumentsOf(db);
}

/** A stored work with the instruments there are now. */
export function equipped(db: Db, stored: string): string {
  const own = instrumentsOf(db);
  if (own.length === 0 && !stored.includes('"instruments":')) return stored;
  return JSON.stringify(withInstruments(JSON.parse(stored) as Work, own));
}
