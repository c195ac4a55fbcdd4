import { barLabel, type Place } from "../score";
import type { Form, Phrase } from "./form";
import { roleOf } from "./form";
import { barsAgain, shiftWords } from "./relate";

/** One bar of the woven picture of a tune. */
export type Cell = {
  /** Index and number of the bar. */
  bar: number;
  number: number;
  /** What the bar is called: "8", "8’" in a second ending. */
  label: string;
  /** Melodic idea and rhythmic idea of its phrase, numbered in order of appearance. */
  dye: number;
  texture: number;
  /** From here on the phrase goes another way than its model. */
  parting: boolean;
  /** The phrase is its model at another pitch: the same cloth in a paler dye, with the interval. */
  echo: string | undefined;
  /** Intro, vamp and tag are undyed. */
  linen: boolean;
  pickup: boolean;
  opens: boolean;
  closes: boolean;
  ending: boolean;
  phrase: string;
  /** The strain's letter, on its first bar. */
  strain: string | undefined;
  /** The cell in words. */
  says: string;
};

/** Repeated bars told for a phrase. */
const TOLD = 2;

/** What a phrase is to the music before it, in words; empty where there is nothing to say. */
export function relationWords(phrase: Phrase, form: Form, places: readonly Place[]): string {
  const model = phrase.model === undefined ? "" : form.phrases[phrase.model]?.name;
  const label = (bar: number) => barLabel(places[bar] as Place);
  const words: Record<Phrase["relation"], () => string> = {
    new: () => "",
    same: () => `same as ${model}`,
    "same start, new ending": () => `begins like ${model}, parts in bar ${label(phrase.parts ?? phrase.from)}`,
    echo: () => `echo of ${model}, ${shiftWords(phrase.shift ?? 0)}`,
    "same notes, new rhythm": () => `notes of ${model}, new rhythm`,
    "same rhythm, other notes": () => `rhythm of ${model}, other notes`,
  };
  const relation = words[phrase.relation]();
  // What the relation covers is said by it; the rest may repeat other bars.
  const open = phrase.relation === "new" || phrase.parts !== undefined ? (phrase.parts ?? phrase.from) : undefined;
  const again = open === undefined ? [] : barsAgain(places, open, phrase.to).slice(0, TOLD);
  const bars = again.map(({ from, to, model: earlier }) =>
    from === to
      ? `bar ${label(from)} is bar ${label(earlier)}`
      : `bars ${label(from)}–${label(to)} are bars ${label(earlier)}–${label(earlier + to - from)}`,
  );
  return [relation, ...bars].filter(Boolean).join("; ");
}

/** Which of its model's dye and texture a phrase keeps. */
const KEEPS: Record<Phrase["relation"], { dye: boolean; texture: boolean }> = {
  new: { dye: false, texture: false },
  same: { dye: true, texture: true },
  "same start, new ending": { dye: true, texture: true },
  echo: { dye: true, texture: true },
  "same notes, new rhythm": { dye: true, texture: false },
  "same rhythm, other notes": { dye: false, texture: true },
};

/** The dye of intros, vamps and tags: plain linen. */
const UNDYED = -1;

/** The weave: dye says notes, texture says rhythm, bar by bar. `labels` are the names of the strains. */
export function weave(places: readonly Place[], form: Form, labels: readonly string[] = []): Cell[] {
  const cloth: { dye: number; texture: number; echo: string | undefined }[] = [];
  const patterns = new Map<string, number>();
  let [dyes, textures] = [0, 0];
  return form.phrases.flatMap((phrase) => {
    const model = phrase.model === undefined ? undefined : cloth[phrase.model];
    const keeps = KEEPS[phrase.relation];
    const linen = roleOf(labels[phrase.strain] ?? "") !== "tune";
    const pattern = rhythm(places, phrase);
    const texture = keeps.texture && model ? model.texture : (patterns.get(pattern) ?? textures++);
    if (!patterns.has(pattern)) patterns.set(pattern, texture);
    const kept = keeps.dye ? model : undefined;
    const echo = phrase.relation === "echo" ? shiftWords(phrase.shift ?? 0) : kept?.echo;
    const own = { dye: kept?.dye ?? (linen ? UNDYED : dyes++), texture, echo };
    cloth.push(own);
    const words = relationWords(phrase, form, places);
    const parts = `parts from ${form.phrases[phrase.model as number]?.name} here`;
    return places.slice(phrase.from, phrase.to + 1).map((place): Cell => {
      const parting = phrase.parts !== undefined && place.index >= phrase.parts && !place.pickup;
      return {
        bar: place.index,
        number: place.number,
        label: barLabel(place),
        ...own,
        parting,
        linen,
        pickup: place.pickup,
        opens: place.bar.repeatStart === true,
        closes: place.bar.repeatEnd !== undefined,
        ending: place.bar.ending !== undefined,
        phrase: phrase.name,
        strain: phrase.first && place.index === phrase.from ? phrase.label : undefined,
        says:
          [place.pickup ? "pickup" : `bar ${barLabel(place)}`, phrase.name].join(", ") + said(parting ? parts : words),
      };
    });
  });
}

const said = (words: string) => (words ? `: ${words}` : "");

const rhythm = (places: readonly Place[], phrase: Phrase) =>
  places
    .slice(phrase.from, phrase.to + 1)
    .filter((p) => !p.pickup)
    .map((p) => p.bar.events.map((e) => `${e.pitches.length ? "" : "z"}${e.ticks}`).join(" "))
    .join("|");
