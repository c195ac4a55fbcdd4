// Who is answered. The application is for this machine alone: a page of another name or another site gets nothing.

/** What is known of a request before it is answered. */
export type Caller = {
  method: string;
  host: string | null;
  origin: string | null;
  /** Sec-Fetch-Site, where the browser says how the page stands to this one. */
  site: string | null;
  path: string;
};
export type Turned = { status: 400 | 403 | 421; words: string };

const NAMES = ["127.0.0.1", "localhost", "[::1]"];
const READING = new Set(["GET", "HEAD"]);
/** Headers that claim to speak for another host; nothing stands between this application and its browser. */
export const FORWARDED = ["forwarded", "x-forwarded-for", "x-forwarded-host", "x-forwarded-port", "x-forwarded-proto"];

/** Whether an address can be read at all. */
function readable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}

/**
 * Why a caller is turned away; undefined where it is not. A name that is not this machine's own with the own port is
 * how a page elsewhere would reach in (DNS rebinding); a change must come from a page of this very address.
 */
export function turnedAway({ method, host, origin, site, path }: Caller, port: string): Turned | undefined {
  const own = NAMES.flatMap((name) => (port === "80" ? [name, `${name}:80`] : [`${name}:${port}`]));
  if (host === null || !own.includes(host.toLowerCase()))
    return { status: 421, words: `This application answers at http://127.0.0.1:${port} only.` };
  if (!readable(path)) return { status: 400, words: "This address cannot be read." };
  if (READING.has(method)) return undefined;
  const fromHere = origin === `http://${host.toLowerCase()}` && (site === null || site === "same-origin");
  return fromHere ? undefined : { status: 403, words: "Changes are taken from this application's own pages only." };
}

/** What a page may load: scripts of this application, those inside the page by the nonce of this one answer. */
export function policy(nonce: string, development: boolean): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'${development ? " 'unsafe-eval'" : ""}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "worker-src 'self' blob:",
    "connect-src 'self' data: blob:",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
}
