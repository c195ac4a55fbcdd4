import { beatsWords, beatTicks, type Place, playingOrder, type Tune } from "../score";
import { type Key, keyName, scale } from "../theory";
import type { Form } from "./form";
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
const times = (n: number) => (n === 1 ? "once" : n === 2 ? "twice" : `${n} times`);

/**
 * Key and mode as a teacher says them first: "E dorian, that is E minor with C sharp." What it means for the hand is said by
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
    const name =
      roleOf(strain.label) === "tune"
        ? strain.label.length <= 2
          ? `${strain.label} part`
          : strain.label
        : strain.label.toLowerCase();
    return `${name} ${times(plays)}`;
  });
  const pickup = from[0]?.pickup
    ? `a pickup of ${beatsWords(from[0].ticks / beatTicks(from[0].metre))} ${from[0].ticks <= beatTicks(from[0].metre) ? "beat" : "beats"}`
    : "no pickup";
  const endings = from.filter((p) => p.bar.ending).length;
  const played = order.filter((i) => !from[i]?.pickup && from[i]?.offset === 0).length;
  const bars = (n: number) => `${n} ${n === 1 ? "bar" : "bars"}`;
  const learn =
    form.learn < form.bars
      ? `Learn ${bars(form.learn)} and you know all ${form.bars}.`
      : `All ${bars(form.bars)} are different.`;
  return `${parts.join(", ")}; ${pickup}${endings > 1 ? `, ${endings} different endings` : ""}; ${bars(form.bars)} written${played !== form.bars ? `, ${played} played` : ""}. ${learn}`;
}
