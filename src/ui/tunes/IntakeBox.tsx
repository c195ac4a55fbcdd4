"use client";
import { Box, Button, Flex, Heading, Text, Textarea, VisuallyHidden } from "@chakra-ui/react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useRef, useState, useTransition } from "react";
import { bringIn } from "../../server/actions";
import type { Intake } from "../../server/collection";

const EXAMPLE = `X:1
T:Tar and Twine
R:polka
M:2/4
L:1/8
K:G
|:D|GB d>B|AG E>D|GB dB|A3 D|
GB d>B|AG E>D|GB AF|G3:|
`;

/** The largest file taken, in bytes; the server has the same limit on characters. */
const LARGEST = 8_000_000;

/** Where tunes come in: paste, drop or choose. What was pasted stays until it has been read. */
export function IntakeBox() {
  const [text, setText] = useState("");
  const [result, setResult] = useState<Intake | null>(null);
  const [failure, setFailure] = useState("");
  const [over, setOver] = useState(false);
  const [working, start] = useTransition();
  const area = useRef<HTMLTextAreaElement>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const router = useRouter();

  const submit = (from = text) => start(async () => {
    setFailure("");
    setResult(null);
    try {
      const intake = await bringIn(from);
      const [only] = intake.added;
      if (intake.refused.length === 0 && intake.added.length === 1 && only) return router.push(`/tune/${only.id}`);
      setResult(intake);
      if (intake.refused.length === 0) setText("");
    } catch {
      setFailure("The text could not be sent. It is still here; try again.");
    }
  });

  const take = async (files: FileList | null) => {
    const file = files?.[0];
    if (!file) return;
    if (file.size > LARGEST) return setFailure(`${file.name} is larger than 8 MB. Bring the book in as smaller files.`);
    const bytes = await file.arrayBuffer();
    let read: string;
    try {
      read = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    } catch {
      read = new TextDecoder("windows-1252").decode(bytes);
    }
    setText(read);
    submit(read);
  };

  const show = (line: number, column: number) => {
    const box = area.current;
    if (!box) return;
    const start = text.split(/\r\n|\n|\r/).slice(0, line - 1).reduce((n, l) => n + l.length + 1, 0) + column - 1;
    box.focus();
    box.setSelectionRange(start, start + 1);
    box.scrollTop = Math.max(0, (line - 4) * 19);
  };

  return (
    <Box
      as="section" aria-labelledby="intake" w={{ base: "100%", lg: "400px" }} flexShrink={0} bg="linen" borderRadius="6px" p="20px"
      outline={over ? "2px dashed var(--chakra-colors-woad)" : undefined}
      onDragOver={(e) => { e.preventDefault(); setOver(true); }} onDragLeave={() => setOver(false)}
      onDrop={(e) => { e.preventDefault(); setOver(false); void take(e.dataTransfer.files); }}
    >
      <Heading as="h2" id="intake" fontSize="20px" fontWeight="600" mb="1">Bring a tune in</Heading>
      <Text color="quiet" fontSize="13px" mb="3">Paste ABC, or drop an .abc file here. A whole book will do.</Text>
      <Textarea
        ref={area} aria-label="ABC text" value={text} onChange={(e) => setText(e.target.value)} spellCheck={false} rows={12} bg="fleece" borderColor="cord" fontFamily="ui-monospace, monospace" fontSize="13px" lineHeight="19px"
        placeholder={"T:Tar and Twine\nM:2/4\nK:G\n|:D|GB d>B|AG E>D|…"}
        onKeyDown={(e) => { if (e.key === "Enter" && (e.metaKey || e.ctrlKey) && text.trim()) submit(); }}
      />
      <Flex gap="2" mt="3" align="center" wrap="wrap">
        <Button bg="block" color="onBlock" disabled={!text.trim() || working} onClick={() => submit()}>{working ? "Reading…" : "Read it"}</Button>
        <Button variant="outline" borderColor="quiet" color="ink" _hover={{ bg: "fleece" }} onClick={() => chooser.current?.click()}>Choose a file</Button>
        {!text && <Button variant="plain" color="woad" px="1" onClick={() => setText(EXAMPLE)}>Try an example</Button>}
        <VisuallyHidden>
          <input ref={chooser} type="file" accept=".abc,text/plain,text/vnd.abc" aria-label="ABC file" tabIndex={-1} onChange={(e) => { void take(e.target.files); e.target.value = ""; }} />
        </VisuallyHidden>
      </Flex>
      <Box role="status" aria-live="polite">
        {failure && <Text mt="3" color="madder">{failure}</Text>}
        {result && <Outcome result={result} onShow={show} />}
      </Box>
    </Box>
  );
}

function Outcome({ result, onShow }: { result: Intake; onShow: (line: number, column: number) => void }) {
  const { added, refused, remarks } = result;
  return (
    <Box mt="4" fontSize="14px">
      {added.length > 0 && (
        <Box mb="3">
          <Text fontWeight="600">{added.length === 1 ? "1 tune is in" : `${added.length} tunes are in`}</Text>
          {added.slice(0, 5).map((t) => <Box key={t.id}><Link href={`/tune/${t.id}`}><Text as="span" color="woad" textDecoration="underline">{t.title}</Text></Link></Box>)}
          {added.length > 5 && <Text color="quiet">and {added.length - 5} more in the list</Text>}
        </Box>
      )}
      {refused.length > 0 && (
        <Box mb="3">
          <Text fontWeight="600" color="madder">{refused.length === 1 ? "1 tune could not be read" : `${refused.length} tunes could not be read`}</Text>
          {refused.slice(0, 20).map((r) => (
            <Box key={`${r.index}:${r.line}:${r.column}`} mt="1">
              <Button variant="plain" size="sm" h="auto" p="0" color="woad" textDecoration="underline" onClick={() => onShow(r.line, r.column)}>line {r.line}, column {r.column}</Button>
              <Text>{r.message}</Text>
            </Box>
          ))}
        </Box>
      )}
      {remarks.length > 0 && (
        <details>
          <summary>{remarks.length === 1 ? "1 thing was mended" : `${remarks.length} things were mended`} while reading</summary>
          {remarks.slice(0, 40).map((r) => <Text key={`${r.line}:${r.column}:${r.message}`} color="quiet" mt="1">Line {r.line}, column {r.column}: {r.message}</Text>)}
        </details>
      )}
    </Box>
  );
}
