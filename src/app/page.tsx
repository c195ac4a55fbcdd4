import { countTunes, database } from "../db";
import { collection, PAGE } from "../server/collection";
import { TunesPage } from "../ui/tunes/TunesPage";

export const dynamic = "force-dynamic";

type Props = { searchParams: Promise<{ find?: string | string[]; shown?: string | string[] }> };

export default async function Page({ searchParams }: Props) {
  const { find, shown } = await searchParams;
  const query = typeof find === "string" ? find.slice(0, 100) : "";
  const limit = Math.min(5000, Math.max(PAGE, Number(shown) || PAGE));
  return <TunesPage tunes={collection(database(), query, limit)} found={countTunes(database(), query)} all={countTunes(database())} query={query} />;
}
