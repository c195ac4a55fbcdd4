import { rankKeys } from "../analysis";
import {
  decodeText,
  FormatError,
  type Grid,
  type MidiTrack,
  readAbc,
  readMidi,
  readMusicXml,
  type Remark,
  scoreInContainer,
  type Spot,
  type XmlPart,
} from "../formats";
import { places, type Tune } from "../score";

/** The kinds of file that are read. */
export type Kind = "abc" | "musicxml" | "mxl" | "midi";
export type ReadOptions = { part?: number | undefined; grid?: Grid | undefined };
export type Refusal = Spot & { index: number; message: string };

/** What a file held. `parts` and `tracks` list what could have been chosen instead. */
export type Intake = {
  kind: Kind;
  tunes: { tune: Tune; remarks: Remark[]; index: number }[];
  refused: Refusal[];
  parts?: XmlPart[];
  tracks?: MidiTrack[];
  chosen?: number;
  shift?: number;
};

/** Whether a file holds no notes that could be read: a picture, a recording. */
export const isStrange = (bytes: Uint8Array): boolean => strange("", bytes) !== undefined;

/** What a file is, from its first bytes and then its name; text that is nothing else is taken for ABC. */
export function kindOf(name: string, bytes: Uint8Array): Kind {
  const start = String.fromCharCode(...bytes.subarray(0, 4));
  if (start === "MThd" || /\.midi?$/i.test(name)) return "midi";
  if (start.startsWith("PK") || /\.mxl$/i.test(name)) return "mxl";
  if (
    /\.(musicxml|xml)$/i.test(name) ||
    /^\s*<(\?xml|!DOCTYPE|score-)/.test(decodeText(bytes.subarray(0, 400)).replace(/^\uFEFF/, ""))
  )
    return "musicxml";
  return "abc";
}

/** Files that hold no notes, by their first bytes: what they are, and what to do instead. */
const OTHERS: readonly [start: RegExp, what: string][] = [
  [/^(?:\x89PNG|\xff\xd8\xff|GIF8|BM|II\*\0|MM\0\*|RIFF....WEBP)/s, "a picture"],
  [/^%PDF/, "a PDF, a picture of a page"],
  [/^(?:ID3|\xff[\xfb\xf3\xf2]|OggS|fLaC|RIFF....WAVE|....ftyp)/s, "a recording"],
];
/** What a file is that no notes can be read from, in words; undefined where it may have some. */
function strange(name: string, bytes: Uint8Array): string | undefined {
  const start = String.fromCharCode(...bytes.subarray(0, 16));
  const what = OTHERS.find(([of]) => of.test(start))?.[1];
  return (
    what &&
    `${name} is ${what}. Notes can be read from ABC, MusicXML and MIDI files; from this one, type the tune in instead.`
  );
}

/**
 * Reads a file of any kind. Nothing is thrown for what a file holds: tunes that cannot be read stand among the refused.
 */
export function readFile(name: string, bytes: Uint8Array, options: ReadOptions = {}): Intake {
  const kind = kindOf(name, bytes);
  const other = strange(name, bytes);
  if (other) return { kind, tunes: [], refused: [{ index: 1, line: 1, column: 1, message: other }] };
  try {
    return { kind, refused: [], ...READERS[kind](bytes, options) };
  } catch (error) {
    if (error instanceof FormatError)
      return { kind, tunes: [], refused: [{ index: 1, ...error.spot, message: error.message }] };
    const why = error instanceof Error ? error.message : String(error);
    return {
      kind,
      tunes: [],
      refused: [
        {
          index: 1,
          line: 1,
          column: 1,
          message: `This file could not be read (${why}). Save it again, or send it as another kind of file.`,
        },
      ],
    };
  }
}

type Read = Omit<Intake, "kind" | "refused"> & { refused?: Refusal[] };

const titled = (tune: Tune): Tune => (tune.title ? tune : { ...tune, title: "Untitled" });

const xml = (text: string, { part }: ReadOptions): Read => {
  const { tune, remarks, parts, chosen } = readMusicXml(text, { part });
  return { tunes: [{ tune: titled(tune), remarks, index: 1 }], parts, chosen };
};

const READERS: Record<Kind, (bytes: Uint8Array, options: ReadOptions) => Read> = {
  abc: (bytes) => {
    const { tunes, refused } = readAbc(decodeText(bytes));
    return { tunes, refused: refused.map(({ error, index }) => ({ index, ...error.spot, message: error.message })) };
  },
  musicxml: (bytes, options) => xml(decodeText(bytes), options),
  mxl: (bytes, options) => xml(scoreInContainer(bytes), options),
  midi: (bytes, { part, grid }) => {
    const first = readMidi(bytes, { track: part, grid });
    // Without a key signature the notes themselves say which key they are to be spelled by.
    const best = first.keyed ? undefined : rankKeys(places(first.tune))[0];
    const { tune, remarks, tracks, chosen, shift } = best
      ? readMidi(bytes, { track: part, grid, key: { tonic: best.tonic, mode: best.mode } })
      : first;
    return { tunes: [{ tune: titled(tune), remarks, index: 1 }], tracks, chosen, shift };
  },
};
