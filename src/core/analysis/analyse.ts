import { metreName, type Place, places as placesOf, type Tune } from "../score";
import { type Key, keyName } from "../theory";
import { type DanceType, findDance } from "./dance";
import { findForm, type Form } from "./form";
import { findKey, type KeyFinding, rankKeys } from "./key";

export type Analysis = { places: Place[]; key: KeyFinding; dance: DanceType; form: Form; sentence: string };

/** Everything a teacher says before the first note: dance, key, metre, form; in one sentence too. */
export function analyse(tune: Tune, options: { inferKey?: boolean; inferType?: boolean } = {}): Analysis {
  const places = placesOf(tune);
  const key = findKey(tune, places, options.inferKey);
  const dance = findDance(tune, places, options.inferType);
  const form = findForm(tune, places);
  const bars = `${form.bars} ${form.bars === 1 ? "bar" : "bars"}`;
  const learn = form.learn < form.bars ? `, learn ${form.learn}` : "";
  return { places, key, dance, form, sentence: `${dance.name} in ${keyName(key.key)} · ${metreName(tune.metre)} · ${form.sequence} · ${bars}${learn}` };
}

/** The key each strain is in: the one in force at its first bar; with `infer`, the one its own notes speak for where they are clear. */
export function strainKeys(tune: Tune, { places, key }: Pick<Analysis, "places" | "key">, infer = false): Key[] {
  return tune.strains.map((_, s) => {
    const bars = places.filter((p) => p.strain === s);
    const notated = bars[0]?.key ?? key.key;
    if (!infer) return notated;
    const best = rankKeys(bars)[0];
    return best && tune.strains.length > 1 && bars.length >= 4 && best.confidence > 0.9 ? { tonic: best.tonic, mode: best.mode } : key.key;
  });
}
