"use client";
import { Box, Button, Flex, Input, NativeSelect, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useDeferredValue, useMemo, useRef, useState } from "react";
import { analyse } from "../../core/analysis";
import { type Instrument, INSTRUMENTS } from "../../core/instruments";
import { type Metre, metreName, QUARTER, type Tune } from "../../core/score";
import { readTyped, tokenFor, TYPED, type TypedSetting, type TypedSpelling } from "../../core/typing";
import { type Key, Mode } from "../../core/theory";
import { addTune } from "../../server/actions";
import { answered, wordsOf } from "../answered";
import { Play, Stop } from "../icons";
import { usePreviewPlayer } from "../sound/usePreviewPlayer";
import { LineButton, LinkButton, SolidButton } from "../controls/buttons";
import { PageHead } from "../controls/PageHead";
import { Preview } from "../engraving/Preview";
import { Fretboard } from "./Fretboard";
import { Keyboard } from "./Keyboard";
import { KeySources } from "./KeySources";
import { LengthSheet } from "./LengthSheet";
import { METRES, TONICS } from "../metres";
import { NoteText } from "./NoteText";
import { useDraft } from "./useDraft";
import { useMidiKeys } from "./useMidiKeys";

const STEPS: readonly [number, string][] = [
  [QUARTER / 4, "a sixteenth"],
  [QUARTER / 2, "an eighth"],
  [QUARTER, "a quarter"],
];
/** An invented opening in each spelling, to start from. */
const EXAMPLES: Record<TypedSpelling, string> = {
  letters: "|: <D E F A | B - A F | E D E F | D --- :|",
  "string and finger": "D: 0 1 2 A: 0 | 1 - 0 D: 2 | 1 0 1 2 | 0 --- |",
  syllables: "<re mi fa la | si - la fa | mi re mi fa | re ---",
  frets: "D: 0 2 4 7 | 9 - 7 4 | 2 0 2 4 | 0 ---",
};
const FOR: Record<TypedSpelling, (i: Instrument) => boolean> = {
  letters: () => true,
  syllables: () => true,
  "string and finger": (i) => i.hand === "violin" || i.hand === "cello",
  frets: (i) => i.hand === "frets",
};

/**
 * A tune written in: typed in the spelling the class uses, played on the keys or strings below, or on a MIDI keyboard;
 * the staff follows every letter.
 */
export function TypingPage() {
  const [spelling, setSpelling] = useState<TypedSpelling>("letters");
  const [title, setTitle] = useState("");
  const [tonic, setTonic] = useState("D");
  const [mode, setMode] = useState<Key["mode"]>("major");
  const [metre, setMetre] = useState<Metre>(METRES[2] as Metre);
  const [step, setStep] = useState(QUARTER / 2);
  const [instrument, setInstrument] = useState("fiddle");
  const [text, setText] = useState("");
  const [failure, setFailure] = useState("");
  const [known, setKnown] = useState<{ id: number; title: string } | null>(null);
  const player = usePreviewPlayer();
  const area = useRef<HTMLTextAreaElement>(null);
  const router = useRouter();

  const draft = { spelling, title, tonic, mode, metre: metreName(metre), step, instrument, text };
  const dropDraft = useDraft(draft, text !== "" || title !== "", (kept) => {
    setSpelling(kept.spelling);
    setTitle(kept.title);
    setTonic(kept.tonic);
    setMode(kept.mode);
    setMetre(METRES.find((m) => metreName(m) === kept.metre) ?? (METRES[2] as Metre));
    setStep(kept.step);
    setInstrument(kept.instrument);
    setText(kept.text);
  });

  const on =
    INSTRUMENTS.find((i) => i.name === instrument && FOR[spelling](i)) ??
    (INSTRUMENTS.find(FOR[spelling]) as Instrument);
  const setting: TypedSetting = useMemo(
    () => ({ spelling, key: { tonic, mode }, metre, step, on, title: title.trim() }),
    [spelling, tonic, mode, metre, step, on, title],
  );
  const read = useMemo(() => readTyped(text, setting), [text, setting]);
  const tune = useDeferredValue(read.tune);

  /** Puts a sounding note in where the writing stands, in the spelling that is chosen. */
  const enter = (noteNumber: number) => {
    const at = area.current?.selectionStart ?? text.length;
    const before = text.slice(0, at);
    const token = tokenFor(noteNumber, before, setting);
    if (token === undefined) return setFailure(`The ${on.name} has no such note in first position.`);
    setFailure("");
    const put = `${before && !/\s$/.test(before) ? " " : ""}${token} `;
    setText(before + put + text.slice(at));
    requestAnimationFrame(() => area.current?.setSelectionRange(at + put.length, at + put.length));
  };
  const add = (token: string) => {
    const glued = token === "-" || token === "/" || token === ".";
    setText((old) => `${glued ? old.trimEnd() : old}${glued || !old || /\s$/.test(old) ? "" : " "}${token} `);
    area.current?.focus();
  };
  const keys = useMidiKeys(enter);

  const keep = async (made: Tune, again: boolean) => {
    try {
      const { added, duplicates, refused } = await answered(addTune({ tune: made, step: "Typed in", again }));
      if (refused[0]) setFailure(refused[0].message);
      if (added[0]) {
        dropDraft();
        router.push(`/tune/${added[0].id}`);
      } else setKnown(duplicates[0]?.of ?? null);
    } catch (error) {
      setFailure(`${wordsOf(error)} What you typed is still here.`);
    }
  };
  const choose = (
    label: string,
    value: string,
    options: readonly (readonly [string, string])[],
    take: (value: string) => void,
    width = "auto",
  ) => (
    <Box key={label}>
      <Text fontSize="13px" color="quiet" mb="1px">
        <label htmlFor={label}>{label}</label>
      </Text>
      <NativeSelect.Root size="sm" w={width}>
        <NativeSelect.Field
          id={label}
          bg="fleece"
          borderColor="cord"
          value={value}
          onChange={(e) => take(e.target.value)}
        >
          {options.map(([v, words]) => (
            <option key={v} value={v}>
              {words}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
    </Box>
  );

  return (
    <Flex direction="column" minH="100dvh">
      <PageHead
        title="Type a tune"
        sub={tune ? analyse(tune).sentence : "letters, string and finger, syllables or frets"}
      >
        <LineButton
          size="md"
          disabled={!read.tune && !player.playing}
          onClick={() => (player.playing ? player.stop() : read.tune && player.play("typed", read.tune))}
        >
          {player.playing ? <Stop size={16} fill="currentColor" /> : <Play size={16} fill="currentColor" />}
          {player.playing ? "Stop" : "Play"}
        </LineButton>
        <SolidButton size="md" disabled={!read.tune} onClick={() => read.tune && void keep(read.tune, known !== null)}>
          {known ? "Keep it all the same" : "Keep this tune"}
        </SolidButton>
      </PageHead>
      <Flex
        bg="linen"
        borderBottom="1px solid"
        borderColor="cord"
        px="20px"
        py="8px"
        gap="14px"
        wrap="wrap"
        align="flex-end"
      >
        <Box>
          <Text fontSize="13px" color="quiet" mb="1px">
            <label htmlFor="title">Title</label>
          </Text>
          <Input
            id="title"
            size="sm"
            w="190px"
            bg="fleece"
            borderColor="cord"
            value={title}
            maxLength={200}
            placeholder="Untitled"
            onChange={(e) => setTitle(e.target.value)}
          />
        </Box>
        {choose(
          "Typed as",
          spelling,
          TYPED.map((s) => [s, s] as const),
          (v) => {
            setSpelling(TYPED.find((s) => s === v) ?? "letters");
            setKnown(null);
          },
        )}
        {(spelling === "frets" || spelling === "string and finger") &&
          choose(
            "Instrument",
            on.name,
            INSTRUMENTS.filter(FOR[spelling]).map((i) => [i.name, i.name] as const),
            setInstrument,
          )}
        {choose(
          "Tonic",
          tonic,
          TONICS.map((t) => [t, t.replace("b", "♭").replace("#", "♯")] as const),
          setTonic,
        )}
        {choose(
          "Mode",
          mode,
          Mode.options.map((m) => [m, m] as const),
          (v) => setMode(Mode.parse(v)),
        )}
        {choose(
          "Metre",
          metreName(metre),
          METRES.map((m) => [metreName(m), metreName(m)] as const),
          (v) => setMetre(METRES.find((m) => metreName(m) === v) ?? (METRES[0] as Metre)),
        )}
        {choose(
          "Each note is",
          String(step),
          STEPS.map(([t, w]) => [String(t), w] as const),
          (v) => setStep(Number(v)),
        )}
      </Flex>
      <Flex as="main" flex="1" minH="0" direction={{ base: "column", lg: "row" }}>
        <Box flex="1 1 0" minW="0" px="20px" py="16px">
          <NoteText
            ref={area}
            text={text}
            problems={read.problems}
            onText={(t) => {
              setText(t);
              setKnown(null);
            }}
            placeholder={EXAMPLES[spelling]}
          />
          <Flex mt="8px" gap="6px" wrap="wrap" align="center" fontSize="14px">
            {!text && (
              <Button size="sm" variant="plain" color="woad" px="0" onClick={() => setText(EXAMPLES[spelling])}>
                Start from an example
              </Button>
            )}
            {text && (
              <LinkButton
                tone="madder"
                onClick={() => {
                  setText("");
                  setTitle("");
                  dropDraft();
                }}
              >
                start afresh
              </LinkButton>
            )}
            {text &&
              [
                ["-", "hold"],
                ["/", "half"],
                [".", "dot"],
                ["_", "rest"],
                ["|", "bar line"],
                ["|:", "repeat from"],
                [":|", "repeat to"],
              ].map(([token, words]) => (
                <Button
                  key={token}
                  size="sm"
                  variant="outline"
                  borderColor="cord"
                  color="ink"
                  _hover={{ bg: "linen" }}
                  onClick={() => add(token as string)}
                >
                  <Text as="span" fontFamily="ui-monospace, monospace">
                    {token}
                  </Text>{" "}
                  {words}
                </Button>
              ))}
          </Flex>
          <Box role="status" aria-live="polite" minH="24px" mt="8px">
            {read.problems.slice(0, 4).map((p) => (
              <Text key={`${p.from}${p.message}`} fontSize="14px" color="madder">
                {p.message}
              </Text>
            ))}
            {read.problems.length > 4 && (
              <Text fontSize="14px" color="quiet">
                and {read.problems.length - 4} more
              </Text>
            )}
            {failure && (
              <Text fontSize="14px" color="madder">
                {failure}
              </Text>
            )}
            {known && (
              <Text fontSize="14px">
                You have this one already, note for note:{" "}
                <Link href={`/tune/${known.id}`}>
                  <Text as="span" color="woad" textDecoration="underline">
                    {known.title}
                  </Text>
                </Link>
                .
              </Text>
            )}
          </Box>
          <Box mt="8px" minH="150px" borderTop="1px solid" borderColor="cord" pt="8px">
            {tune ? (
              <Preview tune={tune} rows={12} />
            ) : (
              <Text color="quiet" py="6">
                The staff appears here as you type or play.
              </Text>
            )}
          </Box>
        </Box>
        <Box
          w={{ base: "100%", lg: "316px" }}
          flexShrink={0}
          borderLeft="1px solid"
          borderColor="cord"
          px="20px"
          py="16px"
        >
          <LengthSheet spelling={spelling} on={on} />
        </Box>
      </Flex>
      <Box
        as="footer"
        bg="linen"
        borderTop="1px solid"
        borderColor="cord"
        px="20px"
        py="10px"
        position="sticky"
        bottom="0"
      >
        <Flex gap="14px" align="center" mb="8px" fontSize="13px" wrap="wrap">
          <Text fontWeight="700">{spelling === "frets" || spelling === "string and finger" ? "Strings" : "Keys"}</Text>
          <Text color="quiet">a click enters the note, a step long</Text>
          <Flex ml="auto" gap="8px" align="center">
            <Text color={keys.live ? "lichen" : "quiet"}>{keys.words}</Text>
            <KeySources keys={keys} />
          </Flex>
        </Flex>
        {spelling === "frets" || spelling === "string and finger" ? (
          <Fretboard on={on} onNote={enter} spelling={spelling} musicKey={setting.key} />
        ) : (
          <Keyboard onNote={enter} musicKey={setting.key} />
        )}
      </Box>
    </Flex>
  );
}
