import { database } from "../../../../../db";
import { load } from "../../../../../server/collection";
import { download } from "../../../../../server/files";

/** A part as a file: /tune/7/files/moving.musicxml. Nothing leaves before the rights of the tune are recorded. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; file: string }> },
): Promise<Response> {
  const { id, file } = await params;
  const loaded = load(database(), Number(id));
  if (!loaded) return new Response("There is no such tune.", { status: 404 });
  if (loaded.work.tune.rights === "unknown")
    return new Response(
      "Record the rights of this tune before copies are made: open its Parts and say where it comes from.",
      { status: 403 },
    );
  const match = /^([a-z+]{1,80})\.([a-z]+)$/.exec(file.replaceAll("%2B", "+"));
  const made = match ? download(loaded.work, match[1] as string, match[2] as string) : undefined;
  if (!made) return new Response("There is no such part or format.", { status: 404 });
  return new Response(made.content as BodyInit, {
    headers: { "Content-Type": made.type, "Content-Disposition": `attachment; filename="${made.name}"` },
  });
}
