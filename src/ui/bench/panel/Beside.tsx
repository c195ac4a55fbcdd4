"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { LineButton, SolidButton } from "../../controls/buttons";
import { useBench, type Which } from "../state";

type Props = {
  what: "line" | "plan";
  stretch: string;
  from: number;
  to: number;
  onKeep: (which: Which) => void;
};

/** What is here and what it is compared with, heard in turn; or in an order nobody sees, and one of them kept. */
export function Beside({ what, stretch, from, to, onKeep }: Props) {
  const hear = useBench((s) => s.hearRival);
  const [blind, setBlind] = useState<Record<"A" | "B", Which> | null>(null);
  const shuffle = () => setBlind(Math.random() < 0.5 ? { A: "ours", B: "theirs" } : { A: "theirs", B: "ours" });
  const keep = (which: Which) => {
    onKeep(which);
    setBlind(null);
  };
  return (
    <>
      <Flex gap="6px" mt="6px" wrap="wrap">
        <LineButton onClick={() => hear(what, from, to, "ours")}>hear this</LineButton>
        <LineButton onClick={() => hear(what, from, to, "theirs")}>hear the other</LineButton>
        {!blind && <LineButton onClick={shuffle}>choose blind for {stretch}</LineButton>}
      </Flex>
      {blind && (
        <Box mt="8px" bg="linen" borderRadius="6px" p="10px">
          <Text fontSize="14px" mb="6px">
            Listen to both, then keep one for {stretch}.
          </Text>
          <Flex gap="6px" wrap="wrap">
            {(["A", "B"] as const).map((name) => (
              <Flex key={name} gap="4px" align="center">
                <LineButton onClick={() => hear(what, from, to, blind[name])}>hear {name}</LineButton>
                <SolidButton onClick={() => keep(blind[name])}>keep {name}</SolidButton>
              </Flex>
            ))}
          </Flex>
        </Box>
      )}
    </>
  );
}
