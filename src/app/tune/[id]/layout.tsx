import { notFound } from "next/navigation";
import type { ReactNode } from "react";
import { storedOf } from "../../../server/page";

type Props = { children: ReactNode; params: Promise<{ id: string }> };

/** Every page of a tune: an address that names none is told so before anything of it is sent. */
export default async function Layout({ children, params }: Props) {
  const { id } = await params;
  if (!known(id)) notFound();
  return children;
}

function known(id: string): boolean {
  try {
    return storedOf(id) !== undefined;
  } catch {
    // What is wrong with it, the page itself tells.
    return true;
  }
}
