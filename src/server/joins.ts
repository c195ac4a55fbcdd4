import { analyse } from "../core/analysis";
import { feltBpm, type Joined, joinedOf, readWork } from "../core/ensemble";
import { beatTicks, playingOrder } from "../core/score";
import { type Db, findTune } from "../db";
import { collection } from "./collection";

/** A tune of the shelf that another can go on into: how it stands, and seconds of it once through at its tempo. */
export type Follower = Joined & { id: number; seconds: number };

/** Tunes of the shelf that are looked at. */
const LOOKED_AT = 60;

/** Tunes of the shelf that one can go on into, as the shelf has them. */
export function followers(db: Db, id: number): Follower[] {
  return collection(db, {}, LOOKED_AT).flatMap((listed): Follower[] => {
    const stored = listed.id === id ? undefined : findTune(db, listed.id)?.revision.work;
    if (!stored) return [];
    const { tune } = readWork(JSON.parse(stored));
    const analysis = analyse(tune);
    const { places } = analysis;
    const ticks = playingOrder(places).reduce((sum, i) => sum + (places[i]?.ticks ?? 0), 0);
    const seconds = (ticks * 60) / (feltBpm(tune) * beatTicks(tune.metre));
    return [{ ...joinedOf(tune, analysis), id: listed.id, seconds }];
  });
}
