import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { Suspense } from "react";
import { aside } from "../../../../server/aside";
import { storedOf, titleOf } from "../../../../server/page";
import { withTrouble } from "../../../withTrouble";
import { ChartPage } from "../../../../ui/chart/ChartPage";

export const dynamic = "force-dynamic";

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Chords of ${titleOf((await params).id) ?? "no tune"}` };
}

export default async function Page({ params }: Props) {
  const { id } = await params;
  return withTrouble(async () => {
    const tune = storedOf(id);
    if (!tune) notFound();
    const paper = await aside("chart", tune.work);
    return (
      <Suspense>
        <ChartPage id={tune.id} paper={paper} />
      </Suspense>
    );
  });
}
