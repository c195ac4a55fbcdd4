import { notFound } from "next/navigation";
import { aside } from "../../../../../server/aside";
import { storedOf } from "../../../../../server/page";
import { withTrouble } from "../../../../withTrouble";
import { PrintPage } from "../../../../../ui/print/PrintPage";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ id: string; part: string }> }) {
  const { id, part } = await params;
  return withTrouble(async () => {
    const tune = storedOf(id);
    const paper = tune && (await aside("part", tune.work, part));
    if (!tune || !paper) notFound();
    return <PrintPage id={tune.id} paper={paper} />;
  });
}
