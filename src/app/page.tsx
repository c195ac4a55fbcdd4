import { database } from "../db";
import { collection } from "../server/collection";
import { TunesPage } from "../ui/tunes/TunesPage";

export const dynamic = "force-dynamic";

export default function Page() {
  return <TunesPage tunes={collection(database())} />;
}
