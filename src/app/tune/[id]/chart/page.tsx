import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { Suspense } from "react";
import { derivedOf, tuneOf } from "../../../../server/page";
import { ChartPage } from "../../../../ui/chart/ChartPage";

export const dynamic = "force-dynamic";

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Chords of ${tuneOf((await params).id)?.work.tune.title ?? "no tune"}` };
}

export default async function Page({ params }: Props) {
  const loaded = tuneOf((await params).id);
  if (!loaded) notFound();
  return (
    <Suspense>
      <ChartPage id={loaded.id} tune={loaded.work.tune} derived={derivedOf(loaded)} />
    </Suspense>
  );
}
