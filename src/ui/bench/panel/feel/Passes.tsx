"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { AS_WRITTEN, changePass, passFeel, type PassFeel, strummedOn } from "../../../../core/ensemble";
import { CELLS, cellFits, GROOVES } from "../../../../core/feel";
import { timesThrough } from "../../../../core/score";
import { BOWINGS, strumsFor } from "../../../../core/strokes";
import { Picker } from "../../../controls/Choice";
import { useBench } from "../../state";
import { Fold } from "../parts";

const AS_SET = "";
const ORDER = ["first", "second", "third", "fourth"];

/** Another rhythm, dance, bowing or strum for one time through a strain; heard as it is played. */
export function Passes() {
  const work = useBench((s) => s.work);
  const places = useBench((s) => s.derived.analysis.places);
  const change = useBench((s) => s.change);
  const times = useMemo(() => {
    const all = timesThrough(places).map(({ strain, pass }) => `${strain}.${pass}`);
    return [...new Set(all)].map((name) => {
      const [strain = 0, pass = 1] = name.split(".").map(Number);
      return { strain, pass };
    });
  }, [places]);
  const first = places[0];
  const choices: Record<Aspect, readonly string[]> = {
    groove: [...GROOVES.map((g) => g.name), AS_WRITTEN],
    cell: CELLS.filter((c) => first && cellFits(c, first)).map((c) => c.name),
    bowing: BOWINGS.map((b) => b.name),
    strum: strumsFor(work.tune.metre, strummedOn(work).name).map((s) => s.name),
  };
  const set = (work.feel.passes ?? []).length;
  return (
    <Fold title={set > 0 ? `Another feel each time through (${set})` : "Another feel each time through"}>
      {times.map(({ strain, pass }) => {
        const own = passFeel(work, strain, pass) ?? { strain, pass, ...NOTHING };
        const letter = work.tune.strains[strain]?.label || String.fromCharCode(65 + strain);
        const name = `${letter}, ${ORDER[pass - 1] ?? `${pass}.`} time`;
        return (
          <Box key={`${strain}.${pass}`} mb="10px">
            <Text fontSize="14px" fontWeight="600" mb="3px">
              {name}
            </Text>
            <Flex wrap="wrap" gap="4px">
              {ASPECTS.map((aspect) => (
                <Picker
                  key={aspect}
                  label={`${name}: ${aspect}`}
                  width="calc(50% - 2px)"
                  of={[{ value: AS_SET, words: `${aspect}: as set` }, ...choices[aspect]]}
                  now={own[aspect] ?? AS_SET}
                  onTake={(value) =>
                    change(`${name}: ${value || "as set"}`, (w) => changePass(w, { ...own, [aspect]: value || null }))
                  }
                />
              ))}
            </Flex>
          </Box>
        );
      })}
    </Fold>
  );
}

const ASPECTS = ["cell", "groove", "bowing", "strum"] as const;
type Aspect = (typeof ASPECTS)[number];
const NOTHING: Pick<PassFeel, Aspect> = { cell: null, groove: null, bowing: null, strum: null };
