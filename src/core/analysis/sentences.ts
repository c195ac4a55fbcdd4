import { beatsWords, beatTicks, isCounted, type Place, playingOrder, type Tune } from "../score";
import { type Key, keyName, scale } from "../theory";
import type { Form } from "./form";
import { music } from "./relate";
import { roleOf } from "./form";
import { scaleWords, type UsedScale } from "./scale";

const said = (name: string) =>
  name.replace(/##|#|bb|b/, (s) => ({ "##": " double sharp", "#": " sharp", bb: " double flat", b: " flat" })[s] ?? s);

/**
 * What sets a mode apart from the plain major or minor on its tonic. `modeWords({ tonic: "E", mode: "dorian" }) // =>
 * "E minor with C sharp"`
 */
export function modeWords(key: Key): string {
  if ((key.mode === "major" || key.mode === "minor") && !key.extra) return "";
  const base: Key = {
    tonic: key.tonic,
    mode: ["major", "lydian", "mixolydian"].includes(key.mode) ? "major" : "minor",
  };
  const plain = scale(base);
  const other = scale(key)
    .filter((name, i) => name !== plain[i])
    .map((name) => (name.length === 1 ? `${name} natural` : said(name)));
  return other.length ? `${said(base.tonic)} ${base.mode} with ${list(other)}` : "";
}

const list = (words: readonly string[]): string =>
  words.length > 1 ? `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}` : (words[0] ?? "");
const times = (n: number) => ["", "once", "twice"][n] || `${n} times`;

/**
 * Key and mode as a teacher says them first: "E dorian, that is E minor with C sharp." What it means for the hand is
 * said by
 * `technique`.
 */
export function keySentence(key: Key, used: UsedScale): string {
  const mode = modeWords(key);
  const gaps = scaleWords(used, key);
  return `${keyName(key)}${mode ? `, that is ${mode}` : ""}${gaps ? `; ${gaps}` : ""}.`;
}

/**
 * The form as a teacher says it: strains with their repeats, pickup, endings, length as played, and how much there is
 * to learn.
 */
export function formSentence(tune: Tune, from: readonly Place[], form: Form): string {
  const order = playingOrder(from);
  const parts = tune.strains.map((strain, s) => {
    const index = from.findIndex((p) => p.strain === s && !p.pickup);
    const plays = Math.max(1, order.filter((i) => i === index).length);
    return `${strainWords(strain.label)} ${times(plays)}`;
  });
  const pickup = pickupWords(from[0]);
  const endings = from.filter((p) => p.bar.ending).length;
  const played = order.filter((i) => !from[i]?.pickup && from[i]?.offset === 0).length;
  const bars = (n: number) => `${n} ${n === 1 ? "bar" : "bars"}`;
  const different = new Set(from.filter(isCounted).map(music)).size === form.bars;
  const learn = learnWords(form, different, bars);
  const ends = endings > 1 ? `, ${endings} different endings` : "";
  const more = played !== form.bars ? `, ${played} played` : "";
  return `${parts.join(", ")}; ${pickup}${ends}; ${bars(form.bars)} written${more}.${learn}`;
}

/** How much there is to learn, where that is worth saying. */
function learnWords(form: Form, different: boolean, bars: (n: number) => string): string {
  if (form.learn < form.bars) return ` Learn ${bars(form.learn)} and you know all ${form.bars}.`;
  return different ? ` All ${bars(form.bars)} are different.` : "";
}

/** A strain as it is spoken of: "A part", "Refrain", "intro". */
function strainWords(label: string): string {
  if (roleOf(label) !== "tune") return label.toLowerCase();
  return label.length <= 2 ? `${label} part` : label;
}

function pickupWords(first: Place | undefined): string {
  if (!first?.pickup) return "no pickup";
  const beats = first.ticks / beatTicks(first.metre);
  return `a pickup of ${beatsWords(beats)} ${beats <= 1 ? "beat" : "beats"}`;
}
