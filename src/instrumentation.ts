/** Opens the database and brings it up to date before the first page is asked for; warms the engraver up beside it. */
export async function register() {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  (await import("./db")).database();
  void (await import("./server/drawings")).startEngraver();
}
