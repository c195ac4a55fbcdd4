"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { giveName, listVersions } from "../../../server/actions";
import type { Version } from "../../../server/states";
import { LinkButton, SolidButton } from "../../controls/buttons";
import { useDeed } from "../../useDeed";
import { useBench } from "../state";
import { PanelHead } from "./parts";

const LONGEST_NAME = 80;
const when = (at: number) =>
  new Date(at).toLocaleString(undefined, { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** Everything the tune has been: name a version, or bring one back as a new step. */
export function HistoryPanel() {
  const id = useBench((s) => s.id);
  const head = useBench((s) => s.head);
  const restore = useBench((s) => s.restore);
  const settled = useBench((s) => s.saving.kind === "saved");
  const [versions, setVersions] = useState<Version[]>([]);
  const { run, failure } = useDeed();
  // biome-ignore lint/correctness/useExhaustiveDependencies: every saved state of the work is a new version
  useEffect(() => {
    let current = true;
    void run(
      () => listVersions(id),
      (found) => current && setVersions(found),
    );
    return () => {
      current = false;
    };
  }, [id, head]);
  const name = async (text: string) => {
    const revision = versions.find((v) => v.current)?.id;
    if (revision) await run(() => giveName({ id, revision, name: text }), setVersions);
  };
  return (
    <>
      <PanelHead title="What it has been" sub="every step is kept; nothing is overwritten" />
      <NameForm onName={name} />
      {failure}
      {versions.map((v) => (
        <VersionRow key={v.id} version={v} onBringBack={settled ? () => restore(v.id) : undefined} />
      ))}
    </>
  );
}

function NameForm({ onName }: { onName: (name: string) => Promise<void> }) {
  const [name, setName] = useState("");
  return (
    <Flex
      as="form"
      gap="6px"
      mb="10px"
      onSubmit={(e) => {
        e.preventDefault();
        void onName(name).then(() => setName(""));
      }}
    >
      <Input
        size="sm"
        bg="fleece"
        borderColor="cord"
        aria-label="Name for this version"
        placeholder="Name it as it is now"
        value={name}
        maxLength={LONGEST_NAME}
        onChange={(e) => setName(e.target.value)}
      />
      <SolidButton type="submit" disabled={!name.trim()}>
        Name
      </SolidButton>
    </Flex>
  );
}

const VersionRow = ({ version: v, onBringBack }: { version: Version; onBringBack: (() => void) | undefined }) => (
  <Flex borderTop="1px solid" borderColor="cord" py="6px" gap="8px" align="baseline">
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
      <LinkButton onClick={onBringBack} disabled={!onBringBack}>
        bring back
      </LinkButton>
    )}
  </Flex>
);
