/** Tunes made ready as the application starts: those at the top of the list. */
const READY = 3;

/**
 * Opens the database and brings it up to date before the first page is asked for. Beside it the pages of the first
 * tunes are made ready, so that the first visit finds everything warm.
 */
export async function register() {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { database } = await import("./db");
  const db = database();
  void (async () => {
    const [{ collection, load }, { prepared }, { FIRST_LENS, USUAL_WIDTH }] = await Promise.all([
      import("./server/collection"),
      import("./app/tune/[id]/prepared"),
      import("./ui/bench/layout"),
    ]);
    for (const { id } of collection(db, {}, READY)) {
      // Pages that are asked for meanwhile come first.
      await new Promise((done) => setTimeout(done, 0));
      const loaded = load(db, id);
      if (loaded) await prepared(loaded, FIRST_LENS, USUAL_WIDTH);
    }
  })();
}
