import type { Metadata } from "next";
import { databasePath } from "../../db";
import { BackupsPage } from "../../ui/backups/BackupsPage";

export const metadata: Metadata = { title: "Backups" };
export const dynamic = "force-dynamic";

export default function Page() {
  return <BackupsPage path={databasePath()} />;
}
