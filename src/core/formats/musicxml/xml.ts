/** Characters XML 1.0 forbids: controls, the last two of the plane, and halves of pairs that stand alone. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what it forbids
const CONTROLS = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;
const LONE_HALVES = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** Text made safe for XML: markup escaped, forbidden characters taken out. */
export const escaped = (text: string): string =>
  text
    .replaceAll(CONTROLS, "")
    .replaceAll(LONE_HALVES, "")
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;");

type Attributes = Record<string, string | number | undefined>;

/** One element. Children are XML already; use `text` for plain words. Undefined attributes are left out. */
export function el(name: string, attributes: Attributes = {}, ...children: (string | false | undefined)[]): string {
  const open = Object.entries(attributes)
    .filter(([, v]) => v !== undefined)
    .map(([k, v]) => ` ${k}="${escaped(String(v))}"`)
    .join("");
  const inner = children.filter(Boolean).join("");
  return inner ? `<${name}${open}>${inner}</${name}>` : `<${name}${open}/>`;
}

/** An element that holds plain text. */
export const text = (name: string, value: string | number, attributes: Attributes = {}): string =>
  el(name, attributes, escaped(String(value)));
