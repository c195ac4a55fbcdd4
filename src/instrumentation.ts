/** Opens the database and brings it up to date before the first page is asked for. */
export async function register() {
  if (process.env.NEXT_RUNTIME === "nodejs") (await import("./db")).database();
}
