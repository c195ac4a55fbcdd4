"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { backUp, bringBackupBack, listBackups } from "../../server/actions";
import type { Answer } from "../../server/answer";
import { LineButton, LinkButton, SolidButton } from "../controls/buttons";
import { PageHead } from "../controls/PageHead";
import { tell } from "../saving/tabs";
import { counted, timeWords } from "../signs";
import { useDeed } from "../useDeed";

type Listed = Extract<Awaited<ReturnType<typeof listBackups>>, { ok: true }>["value"][number];

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/** Every backup of the collection, opened and counted, and the way back to any of them. */
export function BackupsPage({ path }: { path: string }) {
  const { run, failure } = useDeed();
  const [backups, setBackups] = useState<Listed[] | null>(null);
  const [busy, setBusy] = useState("");
  const [done, setDone] = useState("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for once, when the page is shown
  useEffect(() => void run(listBackups, setBackups), []);
  const doing = async <T,>(words: string, ask: () => Promise<Answer<T>>, then: (value: T) => void) => {
    setBusy(words);
    setDone("");
    await run(ask, then);
    setBusy("");
  };
  const make = () =>
    doing("Making a backup…", backUp, (found) => {
      setBackups(found);
      setDone("A backup was made, opened and found whole.");
    });
  const bringBack = (name: string) =>
    doing(
      "Bringing it back…",
      () => bringBackupBack(name),
      (tunes) => {
        tell(null);
        setDone(`${counted(tunes, "tune")} are back. What was there before is the newest backup now.`);
        void run(listBackups, setBackups);
      },
    );
  return (
    <Box minH="100%">
      <PageHead title="Backups">
        <SolidButton disabled={busy !== ""} onClick={() => void make()}>
          Make one now
        </SolidButton>
      </PageHead>
      <Box as="main" maxW="860px" mx="auto" px="28px" py="22px">
        <Text color="quiet" mb="1">
          One is made every day and before every update. The last seven days and four weeks are kept, beside your tunes:
        </Text>
        <Text fontFamily="ui-monospace, monospace" fontSize="13px" mb="4" wordBreak="break-all">
          {path}
        </Text>
        <Box role="status" minH="24px" mb="2">
          {busy || done}
        </Box>
        {failure}
        {backups?.length === 0 && <Text color="quiet">There is none yet; the first is made within the hour.</Text>}
        {backups === null && !failure && <Text color="quiet">Opening each of them…</Text>}
        {backups?.map((backup) => (
          <BackupRow
            key={backup.name}
            backup={backup}
            busy={busy !== ""}
            onBringBack={() => void bringBack(backup.name)}
          />
        ))}
      </Box>
    </Box>
  );
}

type RowProps = { backup: Listed; busy: boolean; onBringBack: () => void };

function BackupRow({ backup, busy, onBringBack }: RowProps) {
  const [sure, setSure] = useState(false);
  const whole = "tunes" in backup;
  const words = timeWords(backup.made);
  return (
    <Flex
      data-backup={backup.name}
      borderTop="1px solid"
      borderColor="cord"
      py="10px"
      gap="6px 16px"
      align="baseline"
      wrap="wrap"
    >
      <Text w="170px" fontWeight="600">
        {words.replace(/^(at|on) /, (w) => (w === "at " ? "today at " : ""))}
      </Text>
      <Text w="150px" color="quiet">
        {backup.occasion}
      </Text>
      <Text flex="1" minW="180px" color={whole ? "ink" : "madder"}>
        {whole ? `${counted(backup.tunes, "tune")}, opened and whole` : `cannot be used: ${backup.wrong}`}
      </Text>
      <Text w="70px" textAlign="right" color="quiet" fontSize="14px">
        {megabytes(backup.bytes)}
      </Text>
      <LinkButton disabled={!whole || busy} onClick={() => setSure(true)}>
        bring back
      </LinkButton>
      {sure && (
        <Flex w="100%" bg="linen" borderRadius="4px" px="12px" py="8px" gap="12px" align="center" wrap="wrap">
          <Text flex="1">All tunes become as they were {words}. What is there now is kept as a backup first.</Text>
          <LineButton
            color="madder"
            borderColor="madder"
            disabled={busy}
            onClick={() => {
              setSure(false);
              onBringBack();
            }}
          >
            Bring it back
          </LineButton>
          <LinkButton onClick={() => setSure(false)}>leave it</LinkButton>
        </Flex>
      )}
    </Flex>
  );
}
