import { notFound } from "next/navigation";
import { derivedOf, tuneOf } from "../../../../../server/page";
import { PrintPage } from "../../../../../ui/print/PrintPage";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ id: string; part: string }> }) {
  const { id, part } = await params;
  const loaded = tuneOf(id);
  if (!loaded) notFound();
  return <PrintPage id={loaded.id} work={loaded.work} derived={derivedOf(loaded)} part={part} />;
}
