"use client";
import { ClientOnly, IconButton } from "@chakra-ui/react";
import { Moon, Sun } from "./icons";
import { useTheme } from "next-themes";

/** Daylight or dim. */
export function ThemeSwitch() {
  const { resolvedTheme, setTheme } = useTheme();
  const dim = resolvedTheme === "dark";
  return (
    <ClientOnly fallback={<span style={{ display: "inline-block", width: 40 }} />}>
      <IconButton
        variant="ghost"
        color="ink"
        aria-label={dim ? "Daylight colours" : "Dim colours"}
        title={dim ? "Daylight colours" : "Dim colours"}
        onClick={() => setTheme(dim ? "light" : "dark")}
        _hover={{ bg: "linen" }}
      >
        {dim ? <Sun /> : <Moon />}
      </IconButton>
    </ClientOnly>
  );
}
