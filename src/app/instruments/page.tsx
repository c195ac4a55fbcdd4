import type { Metadata } from "next";
import { database } from "../../db";
import { instrumentsOf } from "../../server/instruments";
import { InstrumentsPage } from "../../ui/instruments/InstrumentsPage";
import { withTrouble } from "../withTrouble";

export const metadata: Metadata = { title: "Instruments" };
export const dynamic = "force-dynamic";

export default function Page() {
  return withTrouble(async () => <InstrumentsPage own={instrumentsOf(database())} />);
}
