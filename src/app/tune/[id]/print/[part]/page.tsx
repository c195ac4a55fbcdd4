import { notFound } from "next/navigation";
import { database } from "../../../../../db";
import { load } from "../../../../../server/collection";
import { PrintPage } from "../../../../../ui/print/PrintPage";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ id: string; part: string }> }) {
  const { id, part } = await params;
  const loaded = load(database(), Number(id));
  if (!loaded) notFound();
  return <PrintPage id={loaded.id} work={loaded.work} part={part} />;
}
