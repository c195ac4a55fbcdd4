/**
 * Bytes as text: by their byte order mark, by the encoding an XML declaration names, as UTF-8, or as Windows-1252 where
 * they are no UTF-8.
 */
export function decodeText(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  if (a === 0x3c && b === 0) return new TextDecoder("utf-16le").decode(bytes);
  if (a === 0 && b === 0x3c) return new TextDecoder("utf-16be").decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}
