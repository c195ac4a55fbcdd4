"use client";
import { Box, Button, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { formSentence, keySentence, ownKeys, relationWords, teachCards } from "../../../core/analysis";
import { notices, setKey } from "../../../core/score";
import { handSentence } from "../../../core/technique";
import { keyName, scale } from "../../../core/theory";
import { LinkButton } from "../../controls/buttons";
import { signed, signedText } from "../../signs";
import { PAGES, type PageName, useBench } from "../state";
import { useNaming } from "../useNaming";
import { FormEditor } from "./form/FormEditor";
import { HandsPanel } from "./hands/HandsPanel";
import { HistoryPanel } from "./HistoryPanel";
import { NoteEditor } from "./NoteEditor";
import { Block, Fold, PanelHead } from "./parts";

const INSIDE: Record<PageName, () => React.ReactNode> = {
  Say,
  Hands: HandsPanel,
  Note: NoteEditor,
  Form: FormEditor,
  History: HistoryPanel,
};

/** Under this, a dance is named with the next likely one beside it. */
const SURE = 0.6;
/** Keys by the notes alone that are listed. */
const KEYS_SHOWN = 3;

/** What a teacher says before the first note, and everything that puts the tune right. */
export function TunePanel() {
  const page = useBench((s) => s.page);
  const setPage = useBench((s) => s.setPage);
  const refused = useBench((s) => s.refused);
  const Inside = INSIDE[page];
  return (
    <>
      <Flex as="nav" aria-label="About the tune" gap="2px" mb="14px" borderBottom="1px solid" borderColor="cord">
        {PAGES.map((name) => (
          <PageTab key={name} name={name} open={page === name} onOpen={() => setPage(name)} />
        ))}
      </Flex>
      {refused && (
        <Text
          role="alert"
          bg="washMadder"
          color="madder"
          borderRadius="6px"
          px="10px"
          py="6px"
          mb="10px"
          fontSize="14px"
        >
          {refused}
        </Text>
      )}
      <Inside />
    </>
  );
}

const PageTab = ({ name, open, onOpen }: { name: PageName; open: boolean; onOpen: () => void }) => (
  <Button
    size="sm"
    h="32px"
    px="9px"
    variant="plain"
    borderRadius="0"
    border="0"
    color={open ? "ink" : "quiet"}
    fontWeight={open ? "700" : "500"}
    boxShadow={open ? "0 2px 0 var(--chakra-colors-ink)" : "none"}
    aria-current={open ? "page" : undefined}
    onClick={onOpen}
  >
    {name}
  </Button>
);

function Say() {
  const { key, places, form, dance, scale: used } = useBench((s) => s.derived.analysis);
  const tune = useBench((s) => s.work.tune);
  const { on } = useNaming();
  const off = notices(places);
  const other = dance.confidence < SURE ? dance.alternatives[0] : undefined;
  const called = other ? `${dance.name}, or a ${other.name}` : dance.name;
  return (
    <>
      <PanelHead title={keyName(key.key)} sub={`${called} · its notes are ${scale(key.key).map(signed).join(" ")}`} />
      <Text fontFamily="heading" fontSize="16px" lineHeight="24px" mb="8px">
        {keySentence(key.key, used)} {handSentence(on, places)}
      </Text>
      <Text fontFamily="heading" fontSize="16px" lineHeight="24px">
        {formSentence(tune, places, form)}
      </Text>
      <KeyDoubt />
      {off.length > 0 && (
        <Text mt="8px" fontSize="14px" color="madder">
          {off[0]?.message}
          {off.length > 1 ? ` ${off.length - 1} more under Form.` : ""}
        </Text>
      )}
      <Teach />
      <Repeats />
      <KeyEvidence />
      {dance.evidence.length > 0 && (
        <Fold title={`Why a ${dance.name}`}>
          <Text fontSize="14px">{dance.evidence.join("; ")}.</Text>
        </Fold>
      )}
    </>
  );
}

/** Where the notes speak against the written key: of the whole tune, or of a strain. */
function KeyDoubt() {
  const { key, places } = useBench((s) => s.derived.analysis);
  const tune = useBench((s) => s.work.tune);
  const edit = useBench((s) => s.edit);
  const setRefused = useBench((s) => s.setRefused);
  const best = key.ranked[0];
  const own = ownKeys(tune, places).flatMap((found, strain) => {
    const declared = places.find((p) => p.strain === strain)?.key ?? key.key;
    return found && (found.tonic !== declared.tonic || found.mode !== declared.mode)
      ? [`${tune.strains[strain]?.label} by itself sounds like ${signed(found.tonic)} ${found.mode}.`]
      : [];
  });
  const asItSounds = () =>
    best &&
    setRefused(edit(`Key ${best.tonic} ${best.mode}`, (t) => setKey(t, { tonic: best.tonic, mode: best.mode }, false)));
  return (
    <>
      {key.disagreement && best && (
        <Box mt="10px" bg="washMadder" borderRadius="6px" px="10px" py="6px" fontSize="14px">
          <Text>{key.disagreement}</Text>
          <LinkButton tone="madder" onClick={asItSounds}>
            write it in {signed(best.tonic)} {best.mode}, as it sounds
          </LinkButton>
        </Box>
      )}
      {own.map((o) => (
        <Text key={o} mt="6px" fontSize="14px">
          {o}
        </Text>
      ))}
    </>
  );
}

/** Things to teach, each a press that goes to its bars and loops them. */
function Teach() {
  const { form, places } = useBench((s) => s.derived.analysis);
  const setLoop = useBench((s) => s.setLoop);
  const setBar = useBench((s) => s.setBar);
  const loop = useBench((s) => s.loop);
  const cards = useMemo(() => teachCards(places, form), [places, form]);
  return (
    <Block title="Teach this">
      {cards.map(({ title, words, from, to }) => (
        <Box
          as="button"
          key={`${from}-${to}`}
          display="block"
          w="100%"
          textAlign="left"
          borderTop="1px solid"
          borderColor="cord"
          px="6px"
          py="6px"
          aria-pressed={loop?.from === from && loop.to === to}
          bg={loop?.from === from && loop.to === to ? "wash" : undefined}
          _hover={{ bg: "linen" }}
          onClick={() => {
            setBar(from);
            setLoop({ from, to });
          }}
        >
          <Text fontWeight="700" fontSize="14px" lineHeight="19px">
            {title}
          </Text>
          <Text fontSize="14px" lineHeight="19px">
            {words}
          </Text>
        </Box>
      ))}
    </Block>
  );
}

/** What each phrase has in common with the music before it; nothing of those that are new. */
function Repeats() {
  const { form, places } = useBench((s) => s.derived.analysis);
  const told = form.phrases.flatMap((p) => {
    const words = relationWords(p, form, places);
    return words ? [{ name: p.name, words }] : [];
  });
  if (told.length === 0) return null;
  return (
    <Block title="What repeats">
      {told.map(({ name, words }) => (
        <Flex key={name} fontSize="14px" gap="8px">
          <Text w="64px" flexShrink={0} fontFamily="heading" fontWeight="600">
            {name}
          </Text>
          <Text>{words}</Text>
        </Flex>
      ))}
    </Block>
  );
}

function KeyEvidence() {
  const { evidence, ranked } = useBench((s) => s.derived.analysis.key);
  const byNotes = ranked.slice(0, KEYS_SHOWN).map((k) => `${signed(k.tonic)} ${k.mode}`);
  const shares = ranked
    .slice(0, KEYS_SHOWN)
    .map((k) => `${signed(k.tonic)} ${k.mode} ${Math.round(k.confidence * 100)} of 100`);
  return (
    <Fold title="How the key shows">
      {evidence.map((e) => (
        <Text key={e} fontSize="14px" mb="2px">
          {signedText(`${e[0]?.toUpperCase()}${e.slice(1)}`)}
        </Text>
      ))}
      {ranked.length > 1 && (
        <Text fontSize="13px" color="quiet" mt="4px" title={shares.join(", ")}>
          By the notes alone, the likeliest first: {byNotes.join(", ")}.
        </Text>
      )}
    </Fold>
  );
}
