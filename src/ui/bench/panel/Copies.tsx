"use client";
import { Flex } from "@chakra-ui/react";
import { Printer } from "../../icons";
import { useBench } from "../state";
import { Downloads } from "./parts";

/** Paper and files of a part, by its id; nothing before the rights of the tune are recorded. */
export function Copies({ part, open, name }: { part: string; open: boolean; name: string }) {
  const id = useBench((s) => s.id);
  if (!open) return null;
  return (
    <Flex mt="6px" gap="14px" align="center" fontSize="14px" color="woad" wrap="wrap">
      <a
        href={`/tune/${id}/print/${part}`}
        aria-label={`Print ${name}`}
        style={{ display: "inline-flex", gap: 5, alignItems: "center", paddingBlock: 2, textDecoration: "underline" }}
      >
        <Printer size={15} />
        Print
      </a>
      <Downloads id={id} part={part} name={name} />
    </Flex>
  );
}
