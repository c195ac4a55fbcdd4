"use client";
import { Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useState } from "react";
import { timeWords } from "../signs";
import { leftBehind, type Unsaved } from "./shelf";

/** Tunes with changes that a page which is gone could not save, to go to. */
export function UnsavedTunes() {
  const [left, setLeft] = useState<Unsaved[]>([]);
  useEffect(() => void leftBehind().then(setLeft), []);
  const first = new Map([...left].reverse().map((step) => [step.tune, step]));
  return [...first.values()].map(({ tune, work, at }) => (
    <Text key={tune} role="status" bg="linen" borderRadius="6px" px="12px" py="8px" mb="2">
      Changes made here {timeWords(at)} were never saved:{" "}
      <Link href={`/tune/${tune}`}>
        <Text as="span" color="woad" textDecoration="underline">
          {work.tune.title || "Untitled"}
        </Text>
      </Link>
    </Text>
  ));
}
