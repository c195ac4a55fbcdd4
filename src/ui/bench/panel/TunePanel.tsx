"use client";
import { Box, Button, Flex, Text } from "@chakra-ui/react";
import { formSentence, keySentence, ownKeys, relationWords } from "../../../core/analysis";
import type { Derived } from "../../../core/ensemble";
import { notices, setKey } from "../../../core/score";
import { handSentence } from "../../../core/technique";
import { keyName, scale } from "../../../core/theory";
import type { Selection } from "../lenses";
import type { NoteEdit } from "../noteEdits";
import type { BenchState } from "../useBench";
import type { NamingState } from "../useNaming";
import { FormEditor } from "./FormEditor";
import { HandsPanel } from "./HandsPanel";
import { HistoryPanel } from "./HistoryPanel";
import { NoteEditor } from "./NoteEditor";
import { Block, PanelHead } from "./parts";

/** Pages of the tune's side panel, in the order a teacher needs them. */
export const PAGES = ["Say", "Hands", "Note", "Form", "Past"] as const;
export type PageName = (typeof PAGES)[number];

type Props = {
  bench: BenchState;
  derived: Derived;
  selection: Selection;
  bar: number;
  naming: NamingState;
  page: PageName;
  onPage: (page: PageName) => void;
  onEdit: (edit: NoteEdit) => void;
  refused: string | undefined;
  onRefused: (why: string | undefined) => void;
};

const sign = (name: string) => name.replace("b", "♭").replace("#", "♯");

/** What a teacher says before the first note, and everything that puts the tune right. */
export function TunePanel({ bench, derived, selection, bar, naming, page, onPage, onEdit, refused, onRefused }: Props) {
  return (
    <>
      <Flex as="nav" aria-label="About the tune" gap="2px" mb="14px" borderBottom="1px solid" borderColor="cord">
        {PAGES.map((name) => (
          <Button
            key={name}
            size="sm"
            h="32px"
            px="9px"
            variant="plain"
            borderRadius="0"
            border="0"
            color={page === name ? "ink" : "quiet"}
            fontWeight={page === name ? "700" : "500"}
            boxShadow={page === name ? "0 2px 0 var(--chakra-colors-ink)" : "none"}
            aria-current={page === name ? "page" : undefined}
            onClick={() => onPage(name)}
          >
            {name}
          </Button>
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
      {page === "Say" && <Say bench={bench} derived={derived} naming={naming} onRefused={onRefused} />}
      {page === "Hands" && <HandsPanel bench={bench} derived={derived} naming={naming} />}
      {page === "Note" && (
        <NoteEditor derived={derived} selection={selection?.kind === "event" ? selection : null} onEdit={onEdit} />
      )}
      {page === "Form" && <FormEditor bench={bench} derived={derived} bar={bar} onRefused={onRefused} />}
      {page === "Past" && <HistoryPanel bench={bench} />}
    </>
  );
}

function Say({ bench, derived, naming, onRefused }: Pick<Props, "bench" | "derived" | "naming" | "onRefused">) {
  const { key, places, form, dance, scale: used } = derived.analysis;
  const { tune } = bench.work;
  const best = key.ranked[0];
  const off = notices(places);
  const own = ownKeys(tune, places).flatMap((k, s) => {
    const declared = places.find((p) => p.strain === s)?.key ?? key.key;
    return k && (k.tonic !== declared.tonic || k.mode !== declared.mode)
      ? [`${tune.strains[s]?.label} by itself sounds like ${sign(k.tonic)} ${k.mode}.`]
      : [];
  });
  const inNew = (bar: number) => form.phrases.some((p) => p.relation === "new" && bar >= p.from && bar <= p.to);
  const halves = form.halves.filter((h) => h.relation === "same" && inNew(h.from));
  const bars = (u: { from: number; to: number } | undefined) =>
    u ? `bars ${places[u.from]?.number}–${places[u.to]?.number}` : "";
  return (
    <>
      <PanelHead
        title={keyName(key.key)}
        sub={`${dance.name}${dance.confidence < 0.6 && dance.alternatives[0] ? `, or a ${dance.alternatives[0].name}` : ""} · its notes are ${scale(key.key).map(sign).join(" ")}`}
      />
      <Text fontFamily="heading" fontSize="16px" lineHeight="24px" mb="8px">
        {keySentence(key.key, used)} {handSentence(naming.on, places)}
      </Text>
      <Text fontFamily="heading" fontSize="16px" lineHeight="24px">
        {formSentence(tune, places, form)}
      </Text>
      {key.disagreement && best && (
        <Box mt="10px" bg="washMadder" borderRadius="6px" px="10px" py="6px" fontSize="14px">
          <Text>{key.disagreement}</Text>
          <Button
            size="xs"
            variant="plain"
            color="madder"
            textDecoration="underline"
            px="0"
            onClick={() =>
              onRefused(
                bench.edit(`Key ${best.tonic} ${best.mode}`, (t) =>
                  setKey(t, { tonic: best.tonic, mode: best.mode }, false),
                ),
              )
            }
          >
            write it in {sign(best.tonic)} {best.mode}, as it sounds
          </Button>
        </Box>
      )}
      {own.map((o) => (
        <Text key={o} mt="6px" fontSize="14px">
          {o}
        </Text>
      ))}
      {off.length > 0 && (
        <Text mt="8px" fontSize="14px" color="madder">
          {off[0]?.message}
          {off.length > 1 ? ` ${off.length - 1} more under Form.` : ""}
        </Text>
      )}
      <Block title="What repeats">
        {form.phrases.map((p) => (
          <Flex key={p.order} fontSize="14px" gap="8px">
            <Text w="40px" flexShrink={0} fontFamily="heading" fontWeight="600">
              {p.name}
            </Text>
            <Text>{relationWords(p, form, places)}</Text>
          </Flex>
        ))}
        {halves.slice(0, 4).map((h) => (
          <Text key={h.from} fontSize="14px" color="quiet">
            {bars(h)} are {bars(form.halves[h.model ?? 0])}
          </Text>
        ))}
      </Block>
      <Block title="How the key shows">
        {key.evidence.map((e) => (
          <Text key={e} fontSize="14px" mb="2px">
            {e[0]?.toUpperCase()}
            {e.slice(1)}
          </Text>
        ))}
        {key.ranked.length > 1 && (
          <Text fontSize="13px" color="quiet" mt="4px">
            By the notes alone:{" "}
            {key.ranked
              .slice(0, 3)
              .map((k) => `${sign(k.tonic)} ${k.mode} ${Math.round(k.confidence * 100)} %`)
              .join(", ")}
            .
          </Text>
        )}
      </Block>
      {dance.evidence.length > 0 && (
        <Block title={`Why a ${dance.name}`}>
          <Text fontSize="14px">{dance.evidence.join("; ")}.</Text>
        </Block>
      )}
    </>
  );
}
