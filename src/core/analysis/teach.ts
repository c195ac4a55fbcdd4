import { barLabel, isCounted, type Place, timeline } from "../score";
import { anInterval, diatonic, midi, type Pitch, pitchName } from "../theory";
import type { Form } from "./form";
import { music } from "./relate";

/** One thing to teach of a tune: what it is called, why, and the bars (indexes) it is in. */
export type TeachCard = { title: string; words: string; from: number; to: number };

/** Cards of a tune at most. */
const MOST = 6;
/** A leap is hard from a sixth on, counted in steps; a bar is busy from so much more than the usual one. */
const HARD_LEAP = 5;
const BUSY = 1.5;

type Scene = { places: readonly Place[]; form: Form; label: (bar: number) => string };
type Maker = (scene: Scene) => (TeachCard | undefined)[];

const bars = (label: Scene["label"], from: number, to: number): string =>
  from === to ? `bar ${label(from)}` : `bars ${label(from)} to ${label(to)}`;

/** The first line of each strain: where teaching begins. */
const openings: Maker = ({ form }) =>
  form.phrases
    .filter((p, i) => i === 0 || (p.first && p.relation === "new"))
    .slice(0, 3)
    .map(({ from, to, name, label: strain }, i) => ({
      title: i === 0 ? "The first line" : `The first line of ${strain}`,
      words: i === 0 ? `${name}: most of the tune grows from here.` : `${name}: new notes begin.`,
      from,
      to,
    }));

/** The hardest leap, where there is one that stands out. */
const leap: Maker = ({ places, label }) => {
  const notes = timeline(places).flatMap(({ event, place }) => {
    const top = event.pitches[event.pitches.length - 1];
    return top ? [{ top, bar: place.index }] : [];
  });
  const leaps = notes.slice(1).map((to, i) => ({ from: notes[i] as (typeof notes)[number], to }));
  const size = (l: (typeof leaps)[number]) => Math.abs(diatonic(l.to.top) - diatonic(l.from.top));
  const hardest = leaps.reduce((a, b) => (size(b) > size(a) ? b : a), leaps[0] as (typeof leaps)[number]);
  if (!hardest || size(hardest) < HARD_LEAP) return [];
  const way = midi(hardest.to.top) > midi(hardest.from.top) ? "up" : "down";
  const name = (p: Pitch) => pitchName(p).replace("#", "♯").replace("b", "♭");
  const between = `${name(hardest.from.top)} to ${name(hardest.to.top)}`;
  const [from, to] = [hardest.from.bar, hardest.to.bar];
  return [
    {
      title: "The one big leap",
      words: `${capital(anInterval(size(hardest) + 1))} ${way}, ${between}, in ${bars(label, from, to)}.`,
      from,
      to,
    },
  ];
};

/** Where a line that begins like another goes its own way: the place people get lost. */
const partings: Maker = ({ form, label }) =>
  form.phrases.flatMap(({ parts, to, model }) => {
    const like = model === undefined ? undefined : form.phrases[model]?.name;
    if (parts === undefined || !like) return [];
    return [
      {
        title: "Where it parts",
        words: `${capital(bars(label, parts, to))}: up to here it went like ${like}.`,
        from: parts,
        to,
      },
    ];
  });

/** The busiest bar, where it has far more notes than most. */
const busiest: Maker = ({ places, label }) => {
  const full = places.filter(isCounted);
  const count = (p: Place) => p.bar.events.filter((e) => e.pitches.length > 0).length;
  const counts = full.map(count).sort((a, b) => a - b);
  const usual = counts[Math.floor(counts.length / 2)] ?? 0;
  const most = full.find((p) => count(p) === counts.at(-1));
  if (!most || count(most) < usual * BUSY) return [];
  return [
    {
      title: "The busy bar",
      words: `Bar ${label(most.index)} has ${count(most)} notes where most have ${usual}. Loop it slowly.`,
      from: most.index,
      to: most.index,
    },
  ];
};

/** A bar that comes again and again: learned once, known everywhere. */
const often: Maker = ({ places, label }) => {
  const byMusic = new Map<string, number[]>();
  for (const place of places.filter(isCounted)) {
    const notes = music(place);
    byMusic.set(notes, [...(byMusic.get(notes) ?? []), place.index]);
  }
  const [most] = [...byMusic.values()].sort((a, b) => b.length - a.length || (a[0] as number) - (b[0] as number));
  if (!most || most.length < 3) return [];
  const [first, ...again] = most as [number, ...number[]];
  return [
    {
      title: "Learn once, play often",
      words: `Bar ${label(first)} comes again as ${list(again.map(label))}.`,
      from: first,
      to: first,
    },
  ];
};

const capital = (text: string) => `${text[0]?.toUpperCase()}${text.slice(1)}`;
const list = (words: readonly string[]) =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words.at(-1)}`;

/**
 * From three to six things to teach of a tune, in the order of a lesson: where it begins, what comes often, the leap
 * and the bar that are hard, and where lines part. No two are the same bars; a very short tune may have fewer.
 */
export function teachCards(places: readonly Place[], form: Form): TeachCard[] {
  const scene: Scene = { places, form, label: (bar) => barLabel(places[bar] as Place) };
  const [first, ...later] = openings(scene);
  const partedBars = partings(scene);
  const found = [first, ...often(scene), ...leap(scene), ...busiest(scene), ...later, ...partedBars];
  const cards: TeachCard[] = [];
  for (const card of found) {
    if (card && !cards.some((c) => c.from === card.from && c.to === card.to)) cards.push(card);
  }
  return cards.slice(0, MOST);
}
