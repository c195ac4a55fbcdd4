"use client";
import { ChakraProvider } from "@chakra-ui/react";
import { ThemeProvider } from "next-themes";
import { NuqsAdapter } from "nuqs/adapters/next/app";
import type { ReactNode } from "react";
import { EmotionRegistry } from "./EmotionRegistry";
import { system } from "./theme";

export function Providers({ nonce, children }: { nonce: string | undefined; children: ReactNode }) {
  return (
    <EmotionRegistry>
      <ChakraProvider value={system}>
        <ThemeProvider attribute="class" disableTransitionOnChange {...(nonce ? { nonce } : {})}>
          <NuqsAdapter>{children}</NuqsAdapter>
        </ThemeProvider>
      </ChakraProvider>
    </EmotionRegistry>
  );
}
