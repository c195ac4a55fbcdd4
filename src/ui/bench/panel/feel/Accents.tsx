"use client";
import { Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { changeGroove, feltBpm, type Work } from "../../../../core/ensemble";
import { type Groove, grooveTempo, type Pull, pulledGroove, shaped } from "../../../../core/feel";
import { LinkButton } from "../../../controls/buttons";
import { Slide } from "../../../controls/Slide";
import { useBench } from "../../state";
import { Block } from "../parts";
import { AccentBar } from "./AccentBar";
import { StrengthCurve } from "./StrengthCurve";

type Own = NonNullable<Work["feel"]["own"]>;

/** One bar of the groove at today's tempo, to be dragged; how strong it is; and how that changes with tempo. */
export function Accents({ groove }: { groove: Groove }) {
  const tune = useBench((s) => s.work.tune);
  const percent = useBench((s) => s.percent);
  const strength = useBench((s) => s.work.feel.strength ?? 100);
  const own = useBench((s) => s.work.feel.own);
  const change = useBench((s) => s.change);
  const hear = useBench((s) => s.hear);
  const bar = useBench((s) => s.bar);
  const [sliding, setSliding] = useState<number | null>(null);
  const [pulling, setPulling] = useState<Own | null>(null);
  const bpm = grooveTempo(groove, tune.metre, feltBpm(tune, percent));
  const shown = sliding ?? strength;
  const shape = shaped(pulling ? { ...groove, ...pulled(pulling) } : groove, bpm, shown);
  const pull = (to: Pull, done: boolean) => {
    const next = { groove: groove.name, ...pulledGroove(groove, to, bpm, shown) };
    if (!done) return setPulling(next);
    setPulling(null);
    change("Accents moved by hand", (w) => changeGroove(w, { own: next }));
    hear(bar, bar);
  };
  const moved = own?.groove === groove.name;
  return (
    <Block title={shown === 0 ? "One bar: straight and even" : "One bar, as it sounds: drag to change"}>
      <AccentBar shape={shape} onPull={pull} />
      <Slide
        label="Strength of the feel, percent"
        value={strength}
        min={0}
        max={150}
        step={10}
        color="madder"
        onSlide={setSliding}
        onTake={(value) => change(`Feel ${value} percent`, (w) => changeGroove(w, { strength: value }))}
      />
      <Flex justify="space-between" fontSize="13px" color="quiet">
        <Text>{shown === 0 ? "straight and even" : `${shown} percent of the dance’s lean`}</Text>
        {moved && (
          <LinkButton
            fontSize="13px"
            minH="0"
            onClick={() => change("Accents as the dance has them", (w) => changeGroove(w, { own: undefined }))}
          >
            as the dance has it
          </LinkButton>
        )}
      </Flex>
      <StrengthCurve groove={groove} strength={shown} />
    </Block>
  );
}

const pulled = ({ accents, lean }: Own) => ({ accents, lean: lean.map((l) => l / 1000) });
