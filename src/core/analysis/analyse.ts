import { metreName, type Place, places as placesOf, type Tune } from "../score";
import { type Key, keyName } from "../theory";
import { type DanceType, findDance } from "./dance";
import { findForm, type Form } from "./form";
import { findKey, type KeyFinding, bestKey, type RankedKey } from "./key";
import { type UsedScale, usedScale } from "./scale";

export type Analysis = {
  places: Place[];
  key: KeyFinding;
  scale: UsedScale;
  dance: DanceType;
  form: Form;
  /** Dance, key, metre, form and what there is to learn, in one line. */
  sentence: string;
};

/** Everything a teacher says before the first note: dance, key, metre, form; in one sentence too. */
export function analyse(tune: Tune, options: { inferKey?: boolean; inferType?: boolean } = {}): Analysis {
  const places = placesOf(tune);
  const key = findKey(tune, places, options.inferKey);
  const dance = findDance(tune, places, options.inferType);
  const form = findForm(tune, places);
  const bars = `${form.bars} ${form.bars === 1 ? "bar" : "bars"}`;
  const learn = form.learn < form.bars ? `, learn ${form.learn}` : "";
  return {
    places,
    key,
    scale: usedScale(places, key.key),
    dance,
    form,
    sentence: `${dance.name} in ${keyName(key.key)} · ${metreName(tune.metre)} · ${form.sequence} · ${bars}${learn}`,
  };
}

/** How sure the notes of a strain must be before they speak for a key of its own. */
const CLEAR = 0.9;

/**
 * What the notes of each strain speak for on their own, where the tune has more than one strain and they are clear;
 * otherwise undefined.
 */
export const ownKeys = (tune: Tune, places: readonly Place[]): (RankedKey | undefined)[] =>
  tune.strains.map((_, s) => {
    const bars = places.filter((p) => p.strain === s);
    const best = tune.strains.length > 1 && bars.length >= 4 ? bestKey(bars) : undefined;
    return best && best.confidence > CLEAR ? best : undefined;
  });

/**
 * The key each strain is in: the one in force at its first bar; with `infer`, the one its own notes speak for where
 * they are clear and the tune writes no other key there.
 */
export function strainKeys(tune: Tune, { places, key }: Pick<Analysis, "places" | "key">, infer = false): Key[] {
  const written = tune.strains.map((_, s) => places.find((p) => p.strain === s)?.key ?? key.key);
  if (!infer) return written;
  return ownKeys(tune, places).map((own, s) => {
    const here = written[s] as Key;
    const changes = here.tonic !== tune.key.tonic || here.mode !== tune.key.mode;
    if (own && !changes) return { tonic: own.tonic, mode: own.mode };
    return changes ? here : key.key;
  });
}
