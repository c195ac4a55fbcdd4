import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { Suspense } from "react";
import { database } from "../../../../db";
import { load } from "../../../../server/collection";
import { ChartPage } from "../../../../ui/chart/ChartPage";

export const dynamic = "force-dynamic";

type Props = { params: Promise<{ id: string }> };

const find = async ({ params }: Props) => load(database(), Number((await params).id));

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: `Chords of ${(await find(props))?.work.tune.title ?? "no tune"}` };
}

export default async function Page(props: Props) {
  const loaded = await find(props);
  if (!loaded) notFound();
  return (
    <Suspense>
      <ChartPage id={loaded.id} work={loaded.work} />
    </Suspense>
  );
}
