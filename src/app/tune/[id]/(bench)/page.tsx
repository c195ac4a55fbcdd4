import type { Metadata } from "next";
import { cookies } from "next/headers";
import { notFound } from "next/navigation";
import { z } from "zod";
import { isLong, storedOf, titleOf } from "../../../../server/page";
import { opened } from "../../../../server/states";
import { Bench } from "../../../../ui/bench/Bench";
import { FIRST_LENS, LENSES, ROOM_COOKIE, type Room, USUAL_ROOM } from "../../../../ui/bench/layout";
import { withTrouble } from "../../../withTrouble";
import { LateBench } from "../../../../ui/bench/LateBench";
import { prepared } from "./prepared";

type Props = {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

/** The room this screen's rows had on its last visit. Pixels. */
const Kept = z.object({ width: z.int().min(200).max(4000), height: z.int().min(0).max(4000) });
async function roomHere(): Promise<Room> {
  const [width, height] = ((await cookies()).get(ROOM_COOKIE)?.value ?? "").split("x").map(Number);
  return Kept.safeParse({ width, height }).data ?? USUAL_ROOM;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: titleOf((await params).id) ?? "No such tune" };
}

export default async function Page({ params, searchParams }: Props) {
  const { id } = await params;
  const asked = (await searchParams).lens;
  const lens = LENSES.find((l) => l === asked) ?? FIRST_LENS;
  const room = await roomHere();
  return withTrouble(async () => {
    const found = storedOf(id);
    if (!found) notFound();
    if (isLong(found)) return <LateBench key={found.id} unread={found} room={room} />;
    const loaded = opened(found);
    const { derived, drawn } = await prepared(loaded, lens, room);
    return <Bench key={loaded.id} loaded={loaded} derived={derived} drawings={drawn} room={room} />;
  });
}
