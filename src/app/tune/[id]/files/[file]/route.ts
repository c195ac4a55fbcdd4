import { problemOf } from "../../../../../server/answer";
import { aside } from "../../../../../server/aside";
import { tuneOf } from "../../../../../server/page";

const NO_TUNE = "There is no such tune.";
const NO_PART = "There is no such part or format.";
const NO_RIGHTS = "Record the rights of this tune before copies are made: open its Parts and say where it comes from.";
/** A file's name: parts by id, joined by +, and the format. */
const FILE = /^(?<parts>[a-z0-9+-]{1,200})\.(?<format>[a-z]{1,20})$/;

/** A part as a file: /tune/7/files/moving.musicxml. Nothing leaves before the rights of the tune are recorded. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; file: string }> },
): Promise<Response> {
  const { id, file } = await params;
  try {
    const loaded = tuneOf(id);
    if (!loaded) return new Response(NO_TUNE, { status: 404 });
    if (loaded.work.tune.rights === "unknown") return new Response(NO_RIGHTS, { status: 403 });
    const { parts = "", format = "" } = FILE.exec(file.replaceAll("%2B", "+"))?.groups ?? {};
    const made = await aside("file", loaded.work, parts, format);
    if (!made) return new Response(NO_PART, { status: 404 });
    return new Response(made.content as BodyInit, {
      headers: { "Content-Type": made.type, "Content-Disposition": `attachment; filename="${made.name}"` },
    });
  } catch (error) {
    const { problem, again } = problemOf(error);
    return new Response(problem, { status: again ? 503 : 400 });
  }
}
