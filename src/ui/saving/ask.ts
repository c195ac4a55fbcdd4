import type { Answer } from "../../server/answer";
import type { AskName, Given, Sent } from "../../server/asks";

/** Longest an answer is waited for. Milliseconds. */
const PATIENCE = 15_000;
const SILENT = "The application does not answer. Start it again; what you did is kept in this browser meanwhile.";
const STRANGE = "The application did not understand this page. Reload the page; what you did is kept in this browser.";

/** Asks the application about the work on a tune. Never throws: where nothing comes back, that is the answer. */
export async function ask<Name extends AskName>(
  id: number,
  name: Name,
  sent: Sent<Name>,
): Promise<Answer<Given<Name>>> {
  try {
    const response = await fetch(`/tune/${id}/work`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ ask: name, with: sent }),
      signal: AbortSignal.timeout(PATIENCE),
    });
    if (response.headers.get("content-type")?.includes("json")) return (await response.json()) as Answer<Given<Name>>;
    return { ok: false, problem: response.status < 500 ? STRANGE : SILENT, again: true };
  } catch {
    return { ok: false, problem: SILENT, again: true };
  }
}
