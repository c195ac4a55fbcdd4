"use client";
import { Box, Button, Flex, Heading, Progress, Text, Textarea, VisuallyHidden } from "@chakra-ui/react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { decodeText } from "../../core/formats";
import { isStrange, kindOf } from "../../core/intake";
import type { Taken } from "../../server/collection";
import { FilePreview, type Opened } from "./FilePreview";
import { useIntake } from "./useIntake";

const EXAMPLE = `X:1
T:Tar and Twine
R:polka
M:2/4
L:1/8
K:G
|:D|GB d>B|AG E>D|GB dB|A3 D|
GB d>B|AG E>D|GB AF|G3:|
`;

/** The largest file taken, in bytes. */
const LARGEST = 10_000_000;
const LARGEST_BOOK = 40_000_000;
/** Longest text shown in the box; longer books go in without being shown. */
const SHOWN = 1_000_000;

/** Where tunes come in: paste, drop or choose. What was pasted stays until it has been read. */
export function IntakeBox({ onClose }: { onClose?: (() => void) | undefined }) {
  const [text, setText] = useState("");
  const [opened, setOpened] = useState<Opened | null>(null);
  const [over, setOver] = useState(false);
  const intake = useIntake();
  const last = useRef("");
  const area = useRef<HTMLTextAreaElement>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const router = useRouter();
  const working = intake.progress !== null;

  const submit = async (from: string, again = false) => {
    last.current = from;
    const taken = await intake.take(from, again);
    if (!taken) return;
    const [only] = taken.added;
    if (only && taken.added.length === 1 && taken.refused.length === 0 && taken.duplicates.length === 0)
      return router.push(`/tune/${only.id}`);
    if (taken.refused.length === 0 && taken.duplicates.length === 0) setText("");
    router.refresh();
  };

  const take = async (files: FileList | null) => {
    const file = files?.[0];
    if (!file) return;
    intake.setFailure("");
    setOpened(null);
    if (file.size > (/\.abc$/i.test(file.name) ? LARGEST_BOOK : LARGEST))
      return intake.setFailure(`${file.name} is too large. Bring it in as smaller files, of 10 MB at most.`);
    const bytes = new Uint8Array(await file.arrayBuffer());
    if (isStrange(bytes) || kindOf(file.name, bytes) !== "abc") return setOpened({ name: file.name, bytes });
    const read = decodeText(bytes);
    if (read.length <= SHOWN) setText(read);
    void submit(read);
  };

  const show = (line: number, column: number) => {
    const box = area.current;
    if (!box) return;
    const start =
      text
        .split(/\r\n|\n|\r/)
        .slice(0, line - 1)
        .reduce((n, l) => n + l.length + 1, 0) +
      column -
      1;
    box.focus();
    box.setSelectionRange(start, start + 1);
    box.scrollTop = Math.max(0, (line - 4) * 19);
  };

  return (
    <Box
      as="section"
      aria-labelledby="intake"
      w={{ base: "100%", lg: "392px" }}
      flexShrink={0}
      bg="linen"
      borderRadius="6px"
      p="20px"
      outline={over ? "2px dashed var(--chakra-colors-woad)" : undefined}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        void take(e.dataTransfer.files);
      }}
    >
      <Flex align="baseline" justify="space-between">
        <Heading as="h2" id="intake" fontSize="20px" fontWeight="600" mb="1">
          Bring a tune in
        </Heading>
        {onClose && (
          <Button variant="plain" size="sm" px="0" color="woad" onClick={onClose}>
            close
          </Button>
        )}
      </Flex>
      <Text color="quiet" fontSize="13px" mb="3">
        Paste ABC, or drop a file here: an ABC book, MusicXML (.musicxml, .xml, .mxl) or MIDI.
      </Text>
      {opened ? (
        <FilePreview
          opened={opened}
          onDone={(id) => {
            setOpened(null);
            if (id) router.push(`/tune/${id}`);
            else router.refresh();
          }}
        />
      ) : (
        <>
          <Textarea
            ref={area}
            aria-label="ABC text"
            value={text}
            onChange={(e) => setText(e.target.value)}
            spellCheck={false}
            rows={11}
            bg="fleece"
            borderColor="cord"
            fontFamily="ui-monospace, monospace"
            fontSize="13px"
            lineHeight="19px"
            placeholder={"T:Tar and Twine\nM:2/4\nK:G\n|:D|GB d>B|AG E>D|…"}
            onKeyDown={(e) => {
              if (e.key === "Enter" && (e.metaKey || e.ctrlKey) && text.trim()) void submit(text);
            }}
          />
          <Flex gap="2" mt="3" align="center" wrap="wrap">
            <Button bg="block" color="onBlock" disabled={!text.trim() || working} onClick={() => void submit(text)}>
              {working ? "Reading…" : "Bring it in"}
            </Button>
            <Button
              variant="outline"
              borderColor="quiet"
              color="ink"
              _hover={{ bg: "fleece" }}
              disabled={working}
              onClick={() => chooser.current?.click()}
            >
              Choose a file
            </Button>
            {!text && (
              <Button variant="plain" color="woad" px="1" onClick={() => setText(EXAMPLE)}>
                Try an example
              </Button>
            )}
            <VisuallyHidden>
              <input
                ref={chooser}
                type="file"
                accept=".abc,.musicxml,.xml,.mxl,.mid,.midi,text/plain,text/vnd.abc"
                aria-label="Tune file"
                tabIndex={-1}
                onChange={(e) => {
                  void take(e.target.files);
                  e.target.value = "";
                }}
              />
            </VisuallyHidden>
          </Flex>
          <Text mt="3" fontSize="14px">
            Or{" "}
            <Link href="/new">
              <Text as="span" color="woad" textDecoration="underline">
                type it in letters, fingers, syllables or frets
              </Text>
            </Link>
            , or play it on a keyboard.
          </Text>
        </>
      )}
      <Box role="status" aria-live="polite">
        {intake.progress && intake.progress.all > 40 && (
          <Box mt="4">
            <Progress.Root
              value={intake.progress.done}
              max={Math.max(1, intake.progress.all)}
              size="sm"
              aria-label="Tunes read"
            >
              <Progress.Track bg="cord">
                <Progress.Range bg="woad" />
              </Progress.Track>
            </Progress.Root>
            <Flex mt="1" justify="space-between" align="center" fontSize="13px">
              <Text>
                {intake.progress.done} of {intake.progress.all} tunes
              </Text>
              <Button variant="plain" size="sm" color="madder" px="0" onClick={intake.stop}>
                Stop here
              </Button>
            </Flex>
          </Box>
        )}
        {intake.failure && (
          <Text mt="3" color="madder">
            {intake.failure}
          </Text>
        )}
        {intake.result && (
          <Outcome
            result={intake.result}
            shown={text.length > 0}
            onShow={show}
            onAgain={() => void submit(last.current, true)}
          />
        )}
      </Box>
    </Box>
  );
}

type OutcomeProps = {
  result: Taken & { stopped: boolean };
  shown: boolean;
  onShow: (line: number, column: number) => void;
  onAgain: () => void;
};

function Outcome({ result, shown, onShow, onAgain }: OutcomeProps) {
  const { added, refused, remarks, duplicates, stopped } = result;
  const [left, mended] = [remarks.filter((r) => r.left), remarks.filter((r) => !r.left)];
  const tunes = (n: number) => (n === 1 ? "1 tune" : `${n} tunes`);
  return (
    <Box mt="4" fontSize="14px">
      {stopped && <Text mb="2">Stopped. What was read before stays in.</Text>}
      {added.length > 0 && (
        <Box mb="3">
          <Text fontWeight="600">{added.length === 1 ? "1 tune is in" : `${added.length} tunes are in`}</Text>
          {added.slice(0, 5).map((t) => (
            <Box key={t.id}>
              <Link href={`/tune/${t.id}`}>
                <Text as="span" color="woad" textDecoration="underline">
                  {t.title}
                </Text>
              </Link>
            </Box>
          ))}
          {added.length > 5 && <Text color="quiet">and {added.length - 5} more in the list</Text>}
        </Box>
      )}
      {duplicates.length > 0 && (
        <Box mb="3">
          <Text fontWeight="600">{tunes(duplicates.length)} you have already</Text>
          {duplicates.slice(0, 8).map((d) => (
            <Text key={`${d.line}:${d.of.id}`}>
              “{d.title}” is{" "}
              <Link href={`/tune/${d.of.id}`}>
                <Text as="span" color="woad" textDecoration="underline">
                  {d.of.title}
                </Text>
              </Link>
              , note for note
            </Text>
          ))}
          {duplicates.length > 8 && <Text color="quiet">and {duplicates.length - 8} more</Text>}
          <Button mt="1" size="sm" variant="outline" borderColor="quiet" color="ink" onClick={onAgain}>
            Bring {duplicates.length === 1 ? "it" : "them"} in all the same
          </Button>
        </Box>
      )}
      {refused.length > 0 && (
        <Box mb="3">
          <Text fontWeight="600" color="madder">
            {refused.length === 1 ? "1 tune could not be read" : `${refused.length} tunes could not be read`}
          </Text>
          {refused.slice(0, 20).map((r) => (
            <Box key={`${r.line}:${r.column}:${r.message}`} mt="1">
              {shown ? (
                <Button
                  variant="plain"
                  size="sm"
                  h="auto"
                  p="0"
                  color="woad"
                  textDecoration="underline"
                  onClick={() => onShow(r.line, r.column)}
                >
                  line {r.line}, column {r.column}
                </Button>
              ) : (
                <Text color="quiet">
                  line {r.line}, column {r.column}
                </Text>
              )}
              <Text>{r.message}</Text>
            </Box>
          ))}
          {refused.length > 20 && <Text color="quiet">and {refused.length - 20} more</Text>}
        </Box>
      )}
      {left.length > 0 && (
        <Box mt="2">
          <Text>Left out while reading, or read in doubt:</Text>
          {left.slice(0, 20).map((r) => (
            <Text key={`${r.line}:${r.column}:${r.message}`} color="quiet" mt="1">
              Line {r.line}, column {r.column}: {r.message}
            </Text>
          ))}
          {left.length > 20 && <Text color="quiet">and {left.length - 20} more</Text>}
        </Box>
      )}
      {mended.length > 0 && (
        <details>
          <summary>
            {mended.length === 1 ? "1 thing was mended" : `${mended.length} things were mended`} while reading
          </summary>
          {mended.slice(0, 40).map((r) => (
            <Text key={`${r.line}:${r.column}:${r.message}`} color="quiet" mt="1">
              Line {r.line}, column {r.column}: {r.message}
            </Text>
          ))}
        </details>
      )}
    </Box>
  );
}
