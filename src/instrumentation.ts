/** What happens once as the application starts. */
export async function register() {
  if (process.env.NEXT_RUNTIME === "nodejs") (await import("./app/start")).start();
}
