"use client";
import { Flex, Text } from "@chakra-ui/react";
import type { Instrument } from "../../../../core/instruments";
import { changeStrum, strumFor, strummedOn } from "../../../../core/ensemble";
import { type Strum, STRUM_STAFF, strumsFor } from "../../../../core/strokes";
import { ChoiceRow, Picker } from "../../../controls/Choice";
import { Tick } from "../../../controls/Tick";
import { counted } from "../../../signs";
import { useBench } from "../../state";
import { useInstruments } from "../../useInstruments";
import { useStrum } from "../../useStrokes";
import { Block, Downloads } from "../parts";
import { StrumEditor } from "./StrumEditor";

const isStrummed = ({ family }: Instrument) => family === "plucked" || family === "keyboard";
const OWN = "your own";

/** How the chords are strummed: on what, by which pattern or one's own, with fills, heard and written. */
export function Strums() {
  const work = useBench((s) => s.work);
  const change = useBench((s) => s.change);
  const drawn = useBench((s) => s.strumDrawn);
  const setDrawn = useBench((s) => s.setStrumDrawn);
  const id = useBench((s) => s.id);
  const plan = useStrum();
  const choice = strumFor(work);
  const on = strummedOn(work);
  const library = strumsFor(work.tune.metre, on.name);
  const heard = work.backing === "strum";
  return (
    <Block title="Strummed on">
      <Flex gap="6px">
        <Picker
          label="Strummed on"
          of={useInstruments()
            .filter(isStrummed)
            .map((i) => i.name)}
          now={on.name}
          onTake={(name) =>
            change(`Strummed on the ${name}`, (w) =>
              changeStrum(w, { instrument: name, tuning: null, style: "", grid: null, locks: [] }),
            )
          }
        />
        {on.tunings.length > 1 && (
          <Picker
            label="Tuning"
            width="142px"
            of={on.tunings.map((t) => t.name)}
            now={choice.tuning ?? on.tunings[0]?.name ?? ""}
            onTake={(tuning) => change(`Tuned ${tuning}`, (w) => changeStrum(w, { tuning }))}
          />
        )}
      </Flex>
      <Text fontSize="13px" color="quiet" mt="10px" mb="3px">
        Pattern
      </Text>
      <Picker
        label="Strum"
        of={[
          ...library.map((s) => ({ value: s.name, words: `${s.name}  ${s.grid}` })),
          ...(choice.grid ? [{ value: OWN, words: `${OWN}  ${choice.grid}` }] : []),
        ]}
        now={choice.grid ? OWN : plan.style}
        onTake={(style) =>
          style !== OWN && change(`Strummed ${style}`, (w) => changeStrum(w, { style, grid: null, locks: [] }))
        }
      />
      <StrumEditor own={gridNow(library, plan.style, choice.grid)} />
      {plan.leftOut.map((words) => (
        <Text key={words} fontSize="13px" color="madder" mt="6px">
          {words}
        </Text>
      ))}
      {library.some((s) => s.name === plan.style && s.school) && !choice.grid && (
        <Tick
          on={choice.thumb === true}
          words="the thumb drops to the melody"
          onTick={(thumb) => change(thumb ? "Thumb dropped" : "Thumb on its string", (w) => changeStrum(w, { thumb }))}
        />
      )}
      {plan.room.length > 0 && (
        <Tick
          on={choice.fills}
          words={`fills under ${counted(plan.room.length, "held note")}`}
          onTick={(fills) => change(fills ? "Fills played" : "No fills", (w) => changeStrum(w, { fills }))}
        />
      )}
      <Tick
        on={heard}
        words="hear it in place of the chords"
        onTick={(now) =>
          change(now ? "Strum heard" : "Chords heard as bass and chord", (w) => ({
            ...changeStrum(w, {}),
            backing: now ? "strum" : "bass and chord",
          }))
        }
      />
      {on.frets && (
        <>
          <Text fontSize="13px" color="quiet" mt="10px" mb="3px">
            Written as
          </Text>
          <ChoiceRow label="Written as" of={["slashes", "tablature"] as const} now={drawn} onTake={setDrawn} />
        </>
      )}
      <Text fontSize="13px" color="quiet" mt="10px">
        Take it away with the tune
      </Text>
      <Downloads id={id} part={`melody+${STRUM_STAFF}`} name="the tune with its strum" />
    </Block>
  );
}

/** The grid that is played now; that of a roll is of strings, and is not edited. */
const gridNow = (library: readonly Strum[], style: string, grid: string | null): string =>
  grid ?? library.find((s) => s.name === style && !s.fingers)?.grid ?? "";
