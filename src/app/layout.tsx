import type { Metadata } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import { fontVariables } from "../ui/fonts";
import { Providers } from "../ui/Providers";
import "./global.css";

export const metadata: Metadata = {
  title: { default: "Symphonos", template: "%s · Symphonos" },
  description: "One tune, a part for everyone in the room.",
};

export default async function Layout({ children }: { children: ReactNode }) {
  // The one script that stands in the page itself, for its colours, is let in by this.
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  return (
    <html lang="en-GB" className={fontVariables} suppressHydrationWarning>
      <body>
        <Providers nonce={nonce}>{children}</Providers>
      </body>
    </html>
  );
}
