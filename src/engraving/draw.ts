import type { VerovioToolkit } from "verovio/esm";
import { sheetMusicXml } from "../core/formats";
import type { Sheet } from "../core/score";
import { type CleanSvg, clean } from "./clean";
import { type Measured, measured } from "./measure";

/** Size of the engraving: percent of the engraver's own units. */
const ROW_SCALE = 40;
const PAGE_SCALE = 42;

const COMMON = {
  svgHtml5: true,
  svgFormatRaw: true,
  svgRemoveXlink: true,
  svgViewBox: true,
  header: "none",
  footer: "none",
  mnumInterval: 0,
  spacingStaff: 5,
  spacingSystem: 8,
  lyricSize: 5,
  openControlEvents: false,
};

/** A drawn row: its SVG, the width it was laid out for in pixels, and where everything stands in it. */
export type Drawing = { svg: CleanSvg; width: number; measured: Measured };
type Logged = { log: string };

/** One row of the bench: a single system stretched to `width` pixels. Notes and bars carry their ids. */
export function drawRow(verovio: VerovioToolkit, sheet: Sheet, width: number): Drawing & Logged {
  verovio.setOptions({
    ...COMMON,
    scale: ROW_SCALE,
    pageWidth: Math.round((width * 100) / ROW_SCALE),
    pageHeight: 4000,
    adjustPageHeight: true,
    breaks: "encoded",
    minLastJustification: 0,
    pageMarginLeft: 0,
    pageMarginRight: 0,
    pageMarginTop: 10,
    pageMarginBottom: 10,
  });
  verovio.loadData(sheetMusicXml(sheet, { ids: true, row: true }));
  const drawn = verovio.renderToSVG(1);
  const lines = sheet.staves.map((s) => s.id);
  const svg = clean(withFretLabels(slim(drawn), sheet));
  return { svg, width, measured: measured(drawn, width, lines), log: verovio.getLog() };
}

const GLYPH = /<g id="(?<id>[^"]+)"><path transform="scale\(1,-1\)" d="(?<path>[^"]+)"\/><\/g>/g;
const USE = /<use href="#(?<id>[^"]+)" transform="translate\((?<at>[^)]*)\) scale\((?<size>[\d.]+), [\d.]+\)"\/>/g;

/**
 * A drawing without what nobody sees or asks for: empty groups, classes said twice, ids that are not ours. It has no
 * style sheet of its own, which would make the browser style the whole page anew (pages have the same rules, once),
 * and every glyph is one path, where a reference to it would be three elements.
 */
function slim(svg: string): string {
  const glyphs = new Map([...svg.matchAll(GLYPH)].map(({ groups }) => [groups?.id, groups?.path]));
  return svg
    .replace(/<style type="text\/css">[^<]*<\/style>/, "")
    .replaceAll(USE, (whole, id, at, size) => {
      const path = glyphs.get(id);
      return path ? `<path transform="translate(${at}) scale(${size}, -${size})" d="${path}"/>` : whole;
    })
    .replace(/<defs>.*?<\/defs>/s, (defs) => (defs.replaceAll(GLYPH, "") === "<defs></defs>" ? "" : defs))
    .replaceAll(/ data-class="[^"]*"/g, "")
    .replaceAll(/ data-id="[^".]*"/g, "")
    .replaceAll(/<g [^<>]*\/>/g, "")
    .replaceAll(/<g class="mNum"><text [^<>]*\/><\/g>/g, "");
}

/**
 * Half frets by their own labels. MusicXML knows whole frets only, so that 6+ is engraved as 6: the plus is written
 * into the drawing, found by the id of its note.
 */
function withFretLabels(svg: string, { staves, places }: Sheet): string {
  let labelled = svg;
  for (const staff of staves.filter((s) => s.tab)) {
    staff.bars.forEach((bar, i) => {
      bar.forEach(({ technique }, e) => {
        const fret = technique?.notes?.[0]?.fret;
        if (!fret?.endsWith("+")) return;
        const id = `data-id="${staff.id}.${places[i]?.index}.${e}"`;
        const at = labelled.indexOf(id);
        const end = labelled.indexOf("</g>", at);
        const text = labelled.slice(at, end).replace(/>(\d+)</, ">$1+<");
        if (at >= 0) labelled = labelled.slice(0, at) + text + labelled.slice(end);
      });
    });
  }
  return labelled;
}

/** The page in the engraver's units, and how much larger than usual the music may be where there is room for it. */
const PAGE = { width: 1780, height: 2280 };
const LARGER = [1.5, 1.3, 1.15];
/** Units a system needs for clef and signature, and for each note of its busiest staff. */
const NEEDED = { head: 250, note: 36 };

/** The most notes that one staff has in one system. */
function busiest({ staves, places }: Sheet, systems: readonly number[]): number {
  const starts = places.flatMap((p, i) => (systems.includes(p.index) ? [i] : []));
  const rows = starts.map((from, i) => [from, starts[i + 1] ?? places.length] as const);
  const notes = staves.flatMap(({ bars }) =>
    rows.map(([from, to]) => bars.slice(from, to).reduce((n, bar) => n + bar.length, 0)),
  );
  return Math.max(0, ...notes);
}

/**
 * A whole sheet on A4 pages, with a new system at each bar in `systems`; larger than usual where it then still fits one
 * page.
 */
export function drawPages(
  verovio: VerovioToolkit,
  sheet: Sheet,
  systems: readonly number[],
): { pages: CleanSvg[]; log: string } {
  const music = sheetMusicXml(sheet, { systems: new Set(systems) });
  const lay = (size: number): number => {
    verovio.setOptions({
      ...COMMON,
      scale: PAGE_SCALE,
      pageWidth: Math.round(PAGE.width / size),
      pageHeight: Math.round(PAGE.height / size),
      adjustPageHeight: false,
      breaks: systems.length > 1 ? "line" : "auto",
      minLastJustification: 0,
      spacingSystem: 12,
      justifyVertically: false,
      pageMarginLeft: 0,
      pageMarginRight: 0,
      pageMarginTop: 40,
      pageMarginBottom: 0,
    });
    verovio.loadData(music);
    return verovio.getPageCount();
  };
  const needed = NEEDED.head + NEEDED.note * busiest(sheet, systems);
  const wide = systems.length > 1 ? LARGER.filter((size) => PAGE.width / size >= needed) : [];
  const fits = wide.some((size) => lay(size) === 1);
  const count = fits ? 1 : lay(1);
  const pages = Array.from({ length: count }, (_, i) => clean(slim(verovio.renderToSVG(i + 1))));
  return { pages, log: verovio.getLog() };
}
