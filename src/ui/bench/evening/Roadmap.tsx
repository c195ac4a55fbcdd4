"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { type KeyboardEvent, useState } from "react";
import { type Column, type Evening, leadIn, planRoadmap, settleWay, type Way } from "../../../core/ensemble";
import { PLAYED_ROLES } from "../../../core/grading";
import { LineButton, SolidButton } from "../../controls/buttons";
import { ChoiceRow } from "../../controls/Choice";
import { RoleBadge, type Voice, VOICES } from "../../roles";
import { minutes } from "../../signs";
import { useBench } from "../state";
import { Medley } from "./Medley";
import { WholeShape } from "./WholeShape";

/** A row of the roadmap: who it settles (a role, or a learner), what it shows, and whose parts (ids) it is. */
type Row = { who: string; words: string; voice: Voice; ids: string[] };
const BY = ["by part", "by name"] as const;

function rowsOf({ parts }: Evening, by: (typeof BY)[number]): Row[] {
  if (by === "by name")
    return parts.map((p) => ({ who: p.learner.name, words: p.learner.name, voice: p.role, ids: [p.id] }));
  return PLAYED_ROLES.filter((role) => parts.some((p) => p.role === role)).map((role) => ({
    who: role,
    words: VOICES[role].name,
    voice: role,
    ids: parts.filter((p) => p.role === role).map((p) => p.id),
  }));
}

/** What a row does in a column; `mixed` where some of it rest. */
function wayOf({ ids }: Row, { plays, louder }: Column): Way | "mixed" {
  const own = ids.filter((id) => plays.includes(id));
  if (own.length === 0) return "rests";
  if (own.length < ids.length) return "mixed";
  return ids.every((id) => louder.includes(id)) ? "louder" : "plays";
}
/** What a press makes of it. */
const NEXT: Readonly<Record<Way | "mixed", Way>> = {
  rests: "plays",
  mixed: "plays",
  plays: "louder",
  louder: "rests",
};

const columnName = ({ strain, turn, pass }: Column, turns: number): string =>
  turns > 1 ? `${strain}, turn ${turn}, time ${pass}` : `${strain}, time ${pass}`;

/**
 * Who plays when, from the introduction to the last chord: a column for each turn through a strain, a row for each
 * part or learner. A press lets it play, come out, or rest; the arrow keys walk from square to square.
 */
export function Roadmap({ evening }: { evening: Evening }) {
  const [by, setBy] = useState<(typeof BY)[number]>("by part");
  const change = useBench((s) => s.change);
  const hear = useBench((s) => s.hear);
  const last = useBench((s) => s.derived.analysis.places.length - 1);
  const settled = useBench((s) => s.work.evening?.roadmap !== undefined);
  const { roadmap, seconds } = evening;
  const { columns, introduction, vamp, tag, ending } = roadmap;
  const rows = rowsOf(evening, by);
  const turnsOf = (strain: string) => Math.max(...columns.filter((c) => c.strain === strain).map((c) => c.turn));
  const first = new Set(leadIn(evening.parts).map((p) => p.id));
  const before = ({ ids }: Row) => ids.some((id) => first.has(id));
  const atLast = ({ ids }: Row) => ids.some((id) => columns.at(-1)?.plays.includes(id));
  const set = (row: Row, column: Column) => {
    const way = NEXT[wayOf(row, column)];
    change(`${row.words} ${way} in ${columnName(column, turnsOf(column.strain))}`, (w) =>
      settleWay(w, row.who, column, way),
    );
  };
  return (
    <Box as="section" aria-label="Roadmap" mt="16px">
      <Flex align="baseline" gap="12px" wrap="wrap">
        <Text fontFamily="heading" fontSize="18px" fontWeight="600">
          Who plays when
        </Text>
        <Text fontSize="14px" color="quiet">
          {minutes(seconds)} minutes from first to last
        </Text>
        <Flex gap="6px" ml="auto" wrap="wrap">
          <SolidButton size="xs" onClick={() => hear(0, last, { arranged: true })}>
            hear it all
          </SolidButton>
          {settled && (
            <LineButton size="xs" onClick={() => change("Roadmap as planned", planRoadmap)}>
              as planned
            </LineButton>
          )}
        </Flex>
      </Flex>
      <WholeShape roadmap={roadmap} />
      <Box maxW="220px" mt="10px">
        <ChoiceRow label="Rows of the roadmap" of={BY} now={by} onTake={setBy} />
      </Box>
      <Box overflowX="auto" mt="6px" pb="4px">
        <Box
          as="table"
          fontSize="13px"
          onKeyDown={walked}
          css={{ borderCollapse: "collapse", "& td, & th": { padding: "1px 2px", textAlign: "center" } }}
        >
          <thead>
            <tr>
              <th />
              {introduction > 0 && <Undyed words="before" />}
              {vamp > 0 && <Undyed words="vamp" />}
              {columns.map((c) => (
                <chakra.th
                  key={`${c.strain} ${c.turn} ${c.pass}`}
                  scope="col"
                  fontWeight="500"
                  color="quiet"
                  minW="40px"
                  borderLeft={c === columns.find((o) => o.pass === c.pass) ? "2px solid" : undefined}
                  borderColor="cord"
                >
                  <Box as="span" display="block" fontSize="11px" minH="16px">
                    {c === columns.find((o) => o.pass === c.pass) ? `time ${c.pass}` : ""}
                  </Box>
                  {c.strain}
                </chakra.th>
              ))}
              {tag > 0 && <Undyed words="tag" />}
              {ending !== "last note" && <Undyed words="chord" />}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, r) => (
              <tr key={row.who}>
                <chakra.th
                  scope="row"
                  fontWeight="400"
                  whiteSpace="nowrap"
                  css={{ textAlign: "left !important", paddingRight: "8px !important" }}
                >
                  <RoleBadge voice={row.voice} size={16} /> {row.words}
                </chakra.th>
                {introduction > 0 && <Linen plays={before(row)} />}
                {vamp > 0 && <Linen plays={before(row)} />}
                {columns.map((column, c) => (
                  <td key={`${column.strain} ${column.turn} ${column.pass}`}>
                    <Square
                      row={row}
                      column={column}
                      name={columnName(column, turnsOf(column.strain))}
                      first={r === 0 && c === 0}
                      onTake={() => set(row, column)}
                    />
                  </td>
                ))}
                {tag > 0 && <Linen plays={atLast(row)} />}
                {ending !== "last note" && <Linen plays={atLast(row)} />}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      <Medley evening={evening} />
    </Box>
  );
}

/** Squares by where they stand, so that arrows go from one to the next. */
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
};
function walked(event: KeyboardEvent<HTMLElement>) {
  const step = STEPS[event.key];
  const square = (event.target as HTMLElement).closest("button");
  const [row, table] = [square?.closest("tr"), square?.closest("tbody")];
  if (!step || !square || !row || !table) return;
  event.preventDefault();
  event.stopPropagation();
  const rows = [...table.querySelectorAll("tr")];
  const at = [...row.querySelectorAll("button")].indexOf(square);
  const next = rows[rows.indexOf(row) + step[0]]?.querySelectorAll("button")[at + step[1]];
  if (!next) return;
  square.tabIndex = -1;
  next.tabIndex = 0;
  next.focus();
}

const Undyed = ({ words }: { words: string }) => (
  <chakra.th scope="col" fontWeight="400" fontSize="11px" color="quiet" verticalAlign="bottom">
    {words}
  </chakra.th>
);
const Linen = ({ plays }: { plays: boolean }) => (
  <td>
    <Box h="18px" w="26px" mx="auto" bg={plays ? "cord" : "transparent"} borderRadius="2px" />
  </td>
);

const WORDS = { rests: "rests", plays: "plays", louder: "comes out", mixed: "some play" } as const;

/** What a row does in a column: empty, woven, half woven where some rest, or with a bar of ink where it comes out. */
function Square({
  row,
  column,
  name,
  first,
  onTake,
}: {
  row: Row;
  column: Column;
  name: string;
  first: boolean;
  onTake: () => void;
}) {
  const way = wayOf(row, column);
  const { color } = VOICES[row.voice];
  const words = `${row.words} in ${name}: ${WORDS[way]}`;
  return (
    <Box
      as="button"
      display="block"
      h="22px"
      w="38px"
      mx="auto"
      borderRadius="2px"
      tabIndex={first ? 0 : -1}
      aria-label={words}
      title={words}
      bg={way === "rests" ? "transparent" : `${color}Cloth`}
      border="1px solid"
      borderColor={way === "rests" ? "cord" : "transparent"}
      borderBottom={way === "louder" ? "5px solid" : undefined}
      borderBottomColor={way === "louder" ? color : undefined}
      opacity={way === "mixed" ? 0.55 : 1}
      onClick={onTake}
    />
  );
}
