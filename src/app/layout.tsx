import type { Metadata } from "next";
import type { ReactNode } from "react";
import { fontVariables } from "../ui/fonts";
import { Providers } from "../ui/Providers";
import "./global.css";

export const metadata: Metadata = {
  title: { default: "Symphonos", template: "%s · Symphonos" },
  description: "One tune, a part for everyone in the room.",
};

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en-GB" className={fontVariables} suppressHydrationWarning>
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
