import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { Suspense } from "react";
import { storedOf, titleOf } from "../../../../server/page";
import { DrillPage } from "../../../../ui/drill/DrillPage";
import { withTrouble } from "../../../withTrouble";

export const dynamic = "force-dynamic";

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Rhythms of ${titleOf((await params).id) ?? "no tune"}` };
}

export default async function Page({ params }: Props) {
  const { id } = await params;
  return withTrouble(async () => {
    const stored = storedOf(id);
    if (!stored) notFound();
    return (
      <Suspense>
        <DrillPage id={stored.id} work={stored.work} />
      </Suspense>
    );
  });
}
