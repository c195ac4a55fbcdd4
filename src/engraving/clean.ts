declare const CLEAN: unique symbol;
/** A drawing that holds nothing but shapes and text. Only `clean` makes one, and only such a one goes into a page. */
export type CleanSvg = string & { readonly [CLEAN]: true };

/** Elements a drawing is made of; others are left out. */
const ELEMENTS = new Set("svg g path polygon polyline line rect ellipse circle text tspan".split(" "));
/** Elements that go with all they hold. */
const HOLLOW = new Set("script style desc title metadata foreignObject defs symbol use image a iframe".split(" "));
const GEOMETRY = "d x y x1 y1 x2 y2 cx cy r rx ry dx dy points width height viewBox transform";
const LOOKS = "fill stroke stroke-width stroke-linecap stroke-linejoin stroke-dasharray opacity color overflow";
const LETTERS = "font-size font-family font-style font-weight text-anchor";
const NAMES = "id class xmlns version data-id data-related data-class";
const ATTRIBUTES = new Set([GEOMETRY, LOOKS, LETTERS, NAMES].join(" ").split(" "));

/** A tag with its attributes, text, or a stray sign. */
const PIECE = new RegExp(
  [
    /<(?<close>\/?)(?<name>[a-zA-Z][\w:.-]*)(?<attributes>(?:\s+[\w:.-]+\s*=\s*"[^"<>]*")*)\s*(?<empty>\/?)>/,
    /(?<text>[^<]+)/,
    /</,
  ]
    .map((piece) => piece.source)
    .join("|"),
  "g",
);
const ATTRIBUTE = /(?<name>[\w:.-]+)\s*=\s*"(?<value>[^"]*)"/g;
const ENTITY = /&(?!(?:amp|lt|gt|quot|apos|#\d{1,7}|#x[\da-fA-F]{1,6});)/g;
/** What leads out of the drawing. */
const REFERENCE = /url\s*\(|:\s*\/\/|javascript:/i;

const escaped = (text: string) => text.replace(ENTITY, "&amp;").replaceAll(">", "&gt;");

function attributesOf(text: string): string {
  let kept = "";
  for (const { groups } of text.matchAll(ATTRIBUTE)) {
    const { name = "", value = "" } = groups ?? {};
    const own = name === "xmlns" ? value === "http://www.w3.org/2000/svg" : !REFERENCE.test(value);
    if (ATTRIBUTES.has(name) && own) kept += ` ${name}="${escaped(value)}"`;
  }
  return kept;
}

/**
 * A drawing built anew from its shapes and its text: no script, style, link or reference, no event, nothing unknown,
 * whatever came in. Everything that is put into a page passes here.
 */
export function clean(svg: string): CleanSvg {
  let made = "";
  /** The element that is being left out, and how deep we are in others of its name. */
  let hollow = { name: "", depth: 0 };
  const open: string[] = [];
  for (const { groups } of svg.matchAll(PIECE)) {
    const { close, name, attributes = "", empty, text } = groups ?? {};
    if (hollow.depth > 0) {
      if (name === hollow.name && !empty) hollow.depth += close ? -1 : 1;
    } else if (text !== undefined) made += open.length > 0 ? escaped(text) : "";
    else if (name && HOLLOW.has(name)) hollow = { name, depth: close || empty ? 0 : 1 };
    else if (name && ELEMENTS.has(name)) {
      if (!close) {
        made += `<${name}${attributesOf(attributes)}${empty ? "/>" : ">"}`;
        if (!empty) open.push(name);
      } else if (open.at(-1) === name) {
        open.pop();
        made += `</${name}>`;
      }
    }
  }
  return (made +
    open
      .reverse()
      .map((name) => `</${name}>`)
      .join("")) as CleanSvg;
}
