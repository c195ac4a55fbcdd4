import type { Metadata } from "next";
import { TypingPage } from "../../ui/typing/TypingPage";

export const metadata: Metadata = { title: "Type a tune · Symphonos" };

export default function Page() {
  return <TypingPage />;
}
