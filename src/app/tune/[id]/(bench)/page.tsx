import type { Metadata } from "next";
import { cookies } from "next/headers";
import { notFound } from "next/navigation";
import { isLong, storedOf, titleOf } from "../../../../server/page";
import { opened } from "../../../../server/states";
import { Bench } from "../../../../ui/bench/Bench";
import { FIRST_LENS, LENSES, USUAL_WIDTH, WIDTH_COOKIE } from "../../../../ui/bench/layout";
import { withTrouble } from "../../../withTrouble";
import { LateBench } from "../../../../ui/bench/LateBench";
import { prepared } from "./prepared";

type Props = {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

/** Row widths a screen can have, in pixels. */
const WIDTHS = { least: 200, most: 4000 };

/** The width this screen's rows had on its last visit. */
async function rowWidth(): Promise<number> {
  const kept = Number((await cookies()).get(WIDTH_COOKIE)?.value);
  return Number.isInteger(kept) && kept >= WIDTHS.least && kept <= WIDTHS.most ? kept : USUAL_WIDTH;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: titleOf((await params).id) ?? "No such tune" };
}

export default async function Page({ params, searchParams }: Props) {
  const { id } = await params;
  const asked = (await searchParams).lens;
  const lens = LENSES.find((l) => l === asked) ?? FIRST_LENS;
  const width = await rowWidth();
  return withTrouble(async () => {
    const found = storedOf(id);
    if (!found) notFound();
    if (isLong(found)) return <LateBench key={found.id} unread={found} width={width} />;
    const loaded = opened(found);
    const { derived, drawn } = await prepared(loaded, lens, width);
    return <Bench key={loaded.id} loaded={loaded} derived={derived} drawings={drawn} width={width} />;
  });
}
