"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useMemo } from "react";
import { withTune } from "../../../../core/ensemble";
import {
  carriedBy,
  CELLS,
  CLASS_STRING,
  cellFits,
  drillLadder,
  type FoundCell,
  setToCell,
} from "../../../../core/feel";
import { barLabelAt } from "../../../../core/score";
import { LineButton } from "../../../controls/buttons";
import { Play, Stop } from "../../../icons";
import { counted } from "../../../signs";
import { usePreviewPlayer } from "../../../sound/usePreviewPlayer";
import { useBench } from "../../state";
import { NUMBERED, usePulse } from "../../usePulse";
import { Block, Fold, Key, PanelHead } from "../parts";
import { TapTrainer } from "./TapTrainer";

/** The rhythms of a tune: which to pull out first, the way up to them, tapping along, and the tune set to one. */
export function PulsePanel() {
  const { found, shown, spoken } = usePulse();
  const places = useBench((s) => s.derived.analysis.places);
  const { beats, all } = carriedBy(places, spoken);
  const carry = shown.length === 1 ? "this cell carries" : "these two carry";
  return (
    <>
      <PanelHead
        title={found.length > 0 ? "Pull these out first" : "No cell to pull out"}
        sub={found.length > 0 ? `${carry} ${beats} of ${all} beats` : "say the words under the notes"}
      />
      {found.slice(0, NUMBERED).map((cell, i) => (
        <CellButton key={cell.name} cell={cell} number={i + 1} shown={shown.includes(cell)} />
      ))}
      {shown[0] && <WayUp cell={shown[0]} />}
      <TapTrainer />
      <SetTo />
    </>
  );
}

function CellButton({ cell, number, shown }: { cell: FoundCell; number: number; shown: boolean }) {
  const places = useBench((s) => s.derived.analysis.places);
  const chosen = useBench((s) => s.cell);
  const setCell = useBench((s) => s.setCell);
  const setBar = useBench((s) => s.setBar);
  const [bar = 0] = cell.bars;
  return (
    <Box
      as="button"
      display="block"
      w="100%"
      textAlign="left"
      borderTop="1px solid"
      borderColor="cord"
      py="4px"
      aria-pressed={chosen === cell.name}
      title={`First in bar ${barLabelAt(places, bar)}`}
      _hover={{ bg: "linen" }}
      bg={chosen === cell.name ? "linen" : undefined}
      onClick={() => {
        setCell(chosen === cell.name ? null : cell.name);
        setBar(bar);
      }}
    >
      <Flex justify="space-between" align="baseline" gap="8px">
        <Text fontWeight="600" fontSize="15px">
          {cell.name}{" "}
          <Text as="span" fontWeight="400" fontSize="13px" color="quiet">
            for {cell.teaches}
          </Text>
        </Text>
        <Text fontSize="13px" color="quiet" whiteSpace="nowrap">
          {counted(cell.count, "time")} <Key>{number}</Key>
        </Text>
      </Flex>
      <Blocks cell={cell} shown={shown} />
    </Box>
  );
}

/** Pixels of an eighth. */
const EIGHTH = 26;
/** A cell as woven blocks with its words. */
function Blocks({ cell, shown }: { cell: FoundCell; shown: boolean }) {
  return (
    <Flex gap="3px" mt="2px" align="flex-end">
      {cell.lengths.map((length, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: notes of one cell, in order
        <Box key={i} w={`${Math.max(18, length * EIGHTH)}px`} fontSize="13px" textAlign="center">
          <Box h={i === 0 ? "13px" : "8px"} bg={shown ? "woad" : "cord"} borderRadius="2.5px" />
          {cell.syllables[i]}
        </Box>
      ))}
    </Flex>
  );
}

/** The rungs of the drill: each to hear at once, all of them on a page to print. */
function WayUp({ cell }: { cell: FoundCell }) {
  const tune = useBench((s) => s.work.tune);
  const id = useBench((s) => s.id);
  const rungs = useMemo(() => drillLadder(tune, cell, CLASS_STRING), [tune, cell]);
  const player = usePreviewPlayer();
  if (rungs.length === 0) return null;
  return (
    <Block title={`The way up to ${cell.name.toLowerCase()}`}>
      {rungs.map((rung) => {
        const sounds = player.playing === rung.name;
        return (
          <Flex
            as="button"
            key={rung.name}
            w="100%"
            minH="27px"
            align="center"
            gap="8px"
            textAlign="left"
            _hover={{ bg: "linen" }}
            title={rung.says}
            aria-label={sounds ? `Stop ${rung.name}` : `Hear ${rung.name}`}
            onClick={() => (sounds ? player.stop() : player.play(rung.name, rung.tune))}
          >
            {sounds ? <Stop size={14} /> : <Play size={14} />}
            <Text fontSize="14px">{rung.name}</Text>
          </Flex>
        );
      })}
      {player.failure && (
        <Text role="alert" color="madder" fontSize="14px">
          No sound: {player.failure}
        </Text>
      )}
      <Text fontSize="14px" mt="4px">
        <Link href={`/tune/${id}/drill?cell=${encodeURIComponent(cell.name)}`}>
          <Text as="span" color="woad" textDecoration="underline">
            Read and print them
          </Text>
        </Link>
      </Text>
    </Block>
  );
}

/** The tune set to a cell all through; how much of it is still there is said. Undo brings the old one back. */
function SetTo() {
  const tune = useBench((s) => s.work.tune);
  const places = useBench((s) => s.derived.analysis.places);
  const change = useBench((s) => s.change);
  const fitting = useMemo(() => {
    const cells = CELLS.filter((c) => places[0] && cellFits(c, places[0]));
    return cells.map((cell) => ({ cell, ...setToCell(tune, cell) })).filter((set) => set.tune !== tune);
  }, [tune, places]);
  return (
    <Fold title="Set the tune to another rhythm">
      {fitting.map(({ cell, kept, tune: set }) => (
        <Flex key={cell.name} align="center" gap="8px" mb="4px" fontSize="14px">
          <Text flex="1">
            {cell.name}
            <Text as="span" color="quiet" fontSize="13px">
              {" "}
              keeps {Math.round(kept * 100)} of 100 beats
            </Text>
          </Text>
          <LineButton size="xs" onClick={() => change(`Set to ${cell.name.toLowerCase()}`, (w) => withTune(w, set))}>
            set
          </LineButton>
        </Flex>
      ))}
      <Text fontSize="13px" color="quiet">
        For one time through only: in Feel, under “Another feel each time through”.
      </Text>
    </Fold>
  );
}
