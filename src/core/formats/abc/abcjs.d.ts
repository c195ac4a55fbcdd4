// The part of the parser's output that the reader uses. Lengths are floats in whole notes; pitch 0 is middle C.
declare module "abcjs/src/parse/abc_parse.js" {
  export type ParsedPitch = {
    pitch: number;
    accidental?: string;
    startTie?: object;
    startSlur?: unknown[];
    endSlur?: unknown[];
  };
  export type ParsedKey = { root: string; acc: string; mode: string; accidentals?: { acc: string; note: string }[] };
  export type ParsedMetre = { type: string; value?: { num: string; den?: string }[] };
  export type ParsedTempo = { duration?: number[]; bpm?: number };
  export type ParsedElement = {
    el_type: string;
    startChar?: number;
    endChar?: number;
    type?: string;
    title?: string;
    startEnding?: string;
    endEnding?: boolean;
    duration?: number | number[];
    pitches?: ParsedPitch[];
    rest?: { type: string; text?: number | string };
    gracenotes?: (ParsedPitch & { duration: number; acciaccatura?: boolean })[];
    decoration?: string[];
    chord?: { name: string; position?: string }[];
    lyric?: { syllable: string; divider: string }[];
    startSlur?: unknown[];
    endSlur?: unknown[];
    startTriplet?: number;
    tripletMultiplier?: number;
    endTriplet?: boolean;
  } & Partial<ParsedKey> &
    Partial<ParsedMetre> &
    Pick<ParsedTempo, "bpm">;
  export type ParsedTune = {
    lines: {
      staff?: { key?: ParsedKey; meter?: ParsedMetre; voices: ParsedElement[][] }[];
      subtitle?: { text: string | { text: string }[] };
    }[];
    metaText: Record<string, unknown> & { tempo?: ParsedTempo };
  };
  export default class Parse {
    parse(text: string, switches?: object, start?: number): void;
    getTune(): ParsedTune;
    getWarningObjects(): { message: string; startChar: number; column: number; line: string }[] | undefined;
  }
}
