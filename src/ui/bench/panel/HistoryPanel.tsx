"use client";
import { Box, Button, Flex, Input, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { giveName, listVersions, restoreVersion } from "../../../server/actions";
import type { Version } from "../../../server/collection";
import type { BenchState } from "../useBench";
import { PanelHead } from "./parts";

/** Everything the tune has been: name a version, or bring one back as a new step. */
export function HistoryPanel({ bench }: { bench: BenchState }) {
  const [versions, setVersions] = useState<Version[]>([]);
  const [name, setName] = useState("");
  const [failure, setFailure] = useState("");
  const { id, step, work } = bench;
  // biome-ignore lint/correctness/useExhaustiveDependencies: every new state of the work is a new version
  useEffect(() => {
    let current = true;
    // A moment for the save that is on its way.
    const timer = setTimeout(
      () =>
        void listVersions(id).then(
          (found) => {
            if (current) setVersions(found);
          },
          () => setFailure("The application does not answer. Start it again."),
        ),
      250,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [id, work, step]);
  const head = versions.find((v) => v.current);
  const when = (at: number) =>
    new Date(at).toLocaleString(undefined, { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
  return (
    <>
      <PanelHead title="What it has been" sub="every step is kept; nothing is overwritten" />
      <Flex
        as="form"
        gap="6px"
        mb="10px"
        onSubmit={(e) => {
          e.preventDefault();
          if (head)
            void giveName(id, head.id, name)
              .then(setVersions)
              .then(() => setName(""));
        }}
      >
        <Input
          size="sm"
          bg="fleece"
          borderColor="cord"
          aria-label="Name for this version"
          placeholder="Name it as it is now"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
        />
        <Button size="sm" type="submit" bg="block" color="onBlock" disabled={!name.trim() || !head}>
          Name
        </Button>
      </Flex>
      {failure && <Text color="madder">{failure}</Text>}
      {versions.map((v) => (
        <Flex key={v.id} borderTop="1px solid" borderColor="cord" py="6px" gap="8px" align="baseline">
          <Box flex="1" minW="0">
            {v.name && (
              <Text fontFamily="heading" fontWeight="600" lineHeight="20px">
                {v.name}
              </Text>
            )}
            <Text fontSize="14px" lineHeight="18px" color={v.name ? "quiet" : "ink"}>
              {v.step}
            </Text>
            <Text fontSize="12px" color="quiet">
              {when(v.at)}
            </Text>
          </Box>
          {v.current ? (
            <Text fontSize="13px" color="lichen">
              now
            </Text>
          ) : (
            <Button
              size="xs"
              variant="plain"
              color="woad"
              textDecoration="underline"
              px="0"
              onClick={() =>
                void restoreVersion(id, v.id).then((loaded) => {
                  if (loaded) bench.show(loaded);
                })
              }
            >
              bring back
            </Button>
          )}
        </Flex>
      ))}
    </>
  );
}
