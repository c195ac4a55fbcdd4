"use client";
import { RadioGroup, Text } from "@chakra-ui/react";
import { bowedOn, bowingFor, changeBowing, feltBpm, grooveFor } from "../../../../core/ensemble";
import { bowUse } from "../../../../core/feel";
import { BOWINGS, differing, type StrokePlan } from "../../../../core/strokes";
import { Picker } from "../../../controls/Choice";
import { Tick } from "../../../controls/Tick";
import { counted } from "../../../signs";
import { useBench } from "../../state";
import { useInstruments } from "../../useInstruments";
import { useBows, useRivalBows } from "../../useStrokes";
import { Block } from "../parts";
import css from "../panel.module.css";

/** How the tune is bowed: the style, on what, how much bow, and another style beside it. */
export function Bows() {
  const work = useBench((s) => s.work);
  const change = useBench((s) => s.change);
  const analysis = useBench((s) => s.derived.analysis);
  const percent = useBench((s) => s.percent);
  const plan = useBows();
  const style = bowingFor(work);
  const groove = grooveFor(work, { analysis });
  const slurred = analysis.places.some((p) => p.bar.events.some((e) => (e.slurs?.open ?? 0) > 0));
  return (
    <Block title={`${plan.downbeats.down} of ${plan.downbeats.all} downbeats on a down-bow`}>
      <RadioGroup.Root
        value={style}
        onValueChange={({ value }) => {
          const found = BOWINGS.find((b) => b.name === value);
          if (found) change(`Bowed ${found.name}`, (w) => changeBowing(w, { style: found.name }));
        }}
        aria-label="Bowing"
      >
        {BOWINGS.map(({ name, says }) => (
          <RadioGroup.Item key={name} value={name} className={css.school} title={says}>
            <RadioGroup.ItemHiddenInput />
            <RadioGroup.ItemText className={css.schoolText}>
              <span>{name}</span>
            </RadioGroup.ItemText>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <Text fontSize="13px" color="quiet" mt="4px">
        {BOWINGS.find((b) => b.name === style)?.says}
      </Text>
      <Text fontSize="14px" mt="8px">
        {bowUse(groove, work.tune.metre, feltBpm(work.tune, percent)).words}
      </Text>
      <Rival plan={plan} style={style} />
      <Text fontSize="13px" color="quiet" mt="10px" mb="3px">
        Played on
      </Text>
      <Picker
        label="Bowed on"
        of={useInstruments()
          .filter((i) => i.family === "bowed")
          .map((i) => i.name)}
        now={bowedOn(work).name}
        onTake={(name) => change(`Bowed on the ${name}`, (w) => changeBowing(w, { instrument: name }))}
      />
      {slurred && (
        <Tick
          on={work.feel.bowing?.written === true}
          words="keep the slurs it came with"
          onTick={(written) =>
            change(written ? "Written slurs kept" : "Written slurs given up", (w) => changeBowing(w, { written }))
          }
        />
      )}
    </Block>
  );
}

const NONE = "nothing";
/** Another style held against the one that stands: drawn under it, and told in a line. */
function Rival({ plan, style }: { plan: StrokePlan; style: string }) {
  const rival = useRivalBows();
  const chosen = useBench((s) => s.rivalBowing);
  const setRival = useBench((s) => s.setRivalBowing);
  const slurs = (p: StrokePlan) => p.strokes.filter((s) => s.notes.length > 1).length;
  const bars = rival ? differing(plan, rival).length : 0;
  return (
    <>
      <Text fontSize="13px" color="quiet" mt="10px" mb="3px">
        Beside it
      </Text>
      <Picker
        label="Compare with"
        of={[NONE, ...BOWINGS.map((b) => b.name).filter((n) => n !== style)]}
        now={chosen ?? NONE}
        onTake={(name) => setRival(name === NONE ? null : name)}
      />
      {rival && (
        <Text fontSize="13px" color="quiet" mt="4px">
          {`${rival.downbeats.down} of ${rival.downbeats.all} down, `}
          {`${counted(slurs(rival), "slur")} against ${slurs(plan)}. `}
          {`Other bows in ${counted(bars, "bar")}, drawn dashed.`}
        </Text>
      )}
    </>
  );
}
