import type { Cutting } from "../../core/formats";
import { bringIn } from "../../server/actions";
import type { Taken } from "../../server/collection";
import { SILENT } from "../answered";

/** Tunes and characters sent to the collection at a time. */
const BATCH = { tunes: 40, letters: 200_000 };

/** Cuttings a batch at a time, by their number and their length. */
export function* batches(cuttings: readonly Cutting[]): Generator<Cutting[]> {
  let batch: Cutting[] = [];
  let letters = 0;
  for (const cutting of cuttings) {
    const length = cutting.text.length + cutting.header.length;
    if (batch.length === BATCH.tunes || (batch.length > 0 && letters + length > BATCH.letters)) {
      yield batch;
      [batch, letters] = [[], 0];
    }
    batch.push(cutting);
    letters += length;
  }
  if (batch.length > 0) yield batch;
}

/** Brings a batch in. One that is refused whole is brought in by halves, until the tune that spoils it stands alone. */
export async function taken(cuttings: readonly Cutting[], again: boolean): Promise<Taken[]> {
  const answer = await bringIn({ cuttings, again }).catch(() => undefined);
  if (answer?.ok) return [answer.value];
  if (!answer || answer.again) throw new Error(answer?.problem ?? SILENT);
  const [only] = cuttings;
  if (only && cuttings.length === 1)
    return [{ ...nothing(), refused: [{ line: only.line, column: 1, message: answer.problem }] }];
  const half = Math.ceil(cuttings.length / 2);
  return [...(await taken(cuttings.slice(0, half), again)), ...(await taken(cuttings.slice(half), again))];
}

/** Nothing has become of anything yet. */
export const nothing = (): Taken => ({ added: [], refused: [], remarks: [], duplicates: [] });
