import type { VerovioToolkit } from "verovio/esm";
import { sheetMusicXml } from "../core/formats";
import type { Sheet } from "../core/score";

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

export type Drawn = { svg: string; log: string };

/** One row of the bench: a single system stretched to `width` pixels. Notes and bars carry their ids. */
export function drawRow(verovio: VerovioToolkit, sheet: Sheet, width: number): Drawn {
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
  return { svg: withFretLabels(verovio.renderToSVG(1), sheet), log: verovio.getLog() };
}

/**
 * Half frets by their own labels. MusicXML knows whole frets only, so that 6+ is engraved as 6: the plus is written into the drawing, found by
 * the id of its note.
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

/** A whole sheet on A4 pages, with a new system at each bar in `systems`. */
export function drawPages(
  verovio: VerovioToolkit,
  sheet: Sheet,
  systems: readonly number[],
): { pages: string[]; log: string } {
  verovio.setOptions({
    ...COMMON,
    scale: PAGE_SCALE,
    pageWidth: 1780,
    pageHeight: 2280,
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
  verovio.loadData(sheetMusicXml(sheet, { systems: new Set(systems) }));
  const pages = Array.from({ length: verovio.getPageCount() }, (_, i) => verovio.renderToSVG(i + 1));
  return { pages, log: verovio.getLog() };
}
