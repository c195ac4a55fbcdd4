import type { Place } from "../score";
import type { Form, Phrase } from "./form";

/** One bar of the woven picture of a tune. */
export type Cell = {
  /** Index and number of the bar. */
  bar: number;
  number: number;
  /** Melodic idea and rhythmic idea of its phrase, numbered in order of appearance. */
  dye: number;
  texture: number;
  /** From here on the phrase goes another way than its model. */
  parting: boolean;
  pickup: boolean;
  opens: boolean;
  closes: boolean;
  ending: boolean;
  phrase: string;
  /** The cell in words. */
  says: string;
};

const rhythm = (places: readonly Place[], phrase: Phrase) =>
  places.slice(phrase.from, phrase.to + 1).filter((p) => !p.pickup).map((p) => p.bar.events.map((e) => `${e.pitches.length ? "" : "z"}${e.ticks}`).join(" ")).join("|");

/** What a phrase is to the ones before it, in words. */
export function relationWords(phrase: Phrase, form: Form, places: readonly Place[]): string {
  const model = phrase.model === undefined ? undefined : form.phrases[phrase.model];
  if (!model) return "new";
  return phrase.parts === undefined ? `same as ${model.name}` : `as ${model.name}, new ending from bar ${places[phrase.parts]?.number}`;
}

/** The weave: dye says notes, texture says rhythm, bar by bar. */
export function weave(places: readonly Place[], form: Form): Cell[] {
  const dyes: number[] = [];
  const textures = new Map<string, number>();
  let next = 0;
  return form.phrases.flatMap((phrase) => {
    const dye = phrase.model === undefined ? next++ : (dyes[phrase.model] as number);
    dyes.push(dye);
    const pattern = rhythm(places, phrase);
    const whole = phrase.relation === "new" ? pattern : rhythm(places, form.phrases[phrase.model as number] as Phrase);
    const texture = textures.get(whole) ?? textures.size;
    textures.set(whole, texture);
    const words = relationWords(phrase, form, places);
    return places.slice(phrase.from, phrase.to + 1).map((place): Cell => {
      const parting = phrase.parts !== undefined && place.index >= phrase.parts && !place.pickup;
      return {
        bar: place.index, number: place.number, dye, texture, parting, pickup: place.pickup,
        opens: place.bar.repeatStart === true, closes: place.bar.repeatEnd !== undefined, ending: place.bar.ending !== undefined, phrase: phrase.name,
        says: `${place.pickup ? "pickup" : `bar ${place.number}`}, ${phrase.name}: ${parting ? `parts from ${form.phrases[phrase.model as number]?.name} here` : words}`,
      };
    });
  });
}
