/**
 * The encoding of two bytes a letter a text begins with, by its byte order mark or by its first letter; undefined
 * where it has none such.
 */
export function wideEncoding([a, b]: Uint8Array): "utf-16le" | "utf-16be" | undefined {
  if (a === 0xff && b === 0xfe) return "utf-16le";
  if (a === 0xfe && b === 0xff) return "utf-16be";
  if (a !== undefined && a > 0 && b === 0) return "utf-16le";
  return a === 0 && b !== undefined && b > 0 ? "utf-16be" : undefined;
}

/** Bytes as text: two bytes a letter where they begin so, else UTF-8, or Windows-1252 where they are no UTF-8. */
export function decodeText(bytes: Uint8Array): string {
  const wide = wideEncoding(bytes);
  if (wide) return new TextDecoder(wide).decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}
