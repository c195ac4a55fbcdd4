import type { Metadata } from "next";
import { database } from "../../db";
import { groupsOf } from "../../server/groups";
import { instrumentsOf } from "../../server/instruments";
import { GroupsPage } from "../../ui/groups/GroupsPage";
import { withTrouble } from "../withTrouble";

export const metadata: Metadata = { title: "Groups" };
export const dynamic = "force-dynamic";

export default function Page() {
  return withTrouble(async () => <GroupsPage first={groupsOf(database())} own={instrumentsOf(database())} />);
}
