"use client";
import { Flex, Slider, Text } from "@chakra-ui/react";
import { useState } from "react";
import { changeGroove, feltBpm, type Work } from "../../../../core/ensemble";
import { accentShare, type Groove, grooveTempo, shaped } from "../../../../core/feel";
import { LinkButton } from "../../../controls/buttons";
import { useBench } from "../../state";
import { Block } from "../parts";
import { AccentBar, type Pull } from "./AccentBar";
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
    const next = pulledTo(groove, to, bpm, shown);
    if (!done) return setPulling(next);
    setPulling(null);
    change("Accents moved by hand", (w) => changeGroove(w, { own: next }));
    hear(bar, bar);
  };
  const moved = own?.groove === groove.name;
  return (
    <Block title={shown === 0 ? "One bar: straight and even" : "One bar, as it sounds: drag to change"}>
      <AccentBar shape={shape} onPull={pull} />
      <Slider.Root
        mt="6px"
        min={0}
        max={150}
        step={10}
        value={[shown]}
        onValueChange={({ value }) => setSliding(value[0] ?? null)}
        // One step of the history for one slide, however far it goes.
        onValueChangeEnd={({ value }) => {
          setSliding(null);
          change(`Feel ${value[0]} percent`, (w) => changeGroove(w, { strength: value[0] ?? 100 }));
        }}
        aria-label={["Strength of the feel, percent"]}
      >
        <Slider.Control>
          <Slider.Track bg="cord">
            <Slider.Range bg="madder" />
          </Slider.Track>
          <Slider.Thumb index={0} bg="fleece" borderColor="ink">
            <Slider.HiddenInput />
          </Slider.Thumb>
        </Slider.Control>
      </Slider.Root>
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

/** What a groove becomes when a handle is dragged: seen at this tempo and strength, kept for the dance itself. */
function pulledTo(groove: Groove, { part, weight, share }: Pull, bpm: number, strength: number): Own {
  const k = (accentShare(groove, bpm) * strength) / 100;
  const accents = groove.accents.map((a, i) => {
    const own = i === part && k > 0 ? 100 * (1 - (1 - weight) / k) : a;
    return Math.round(Math.min(100, Math.max(5, own)));
  });
  return { groove: groove.name, accents, lean: leanTo(groove, part % groove.parts, share, bpm, strength) };
}

/** The lean of a groove, in thousandths, that brings a part of each beat to a share of it. */
function leanTo(groove: Groove, part: number, share: number, bpm: number, strength: number): number[] {
  const before = (groove.lean ?? []).map((l) => Math.round(l * 1000));
  const now = shaped(groove, bpm, strength).shares;
  const at = now.slice(0, part).reduce((a, b) => a + b, 0);
  const by = part > 0 && strength > 0 ? ((share - at) * 100) / strength : 0;
  const plain = Array.from({ length: groove.parts }, (_, i) => before[i] ?? 0);
  if (by === 0) return plain;
  return plain.map((l, i) => {
    if (i === part - 1) return bounded(l + by * 1000);
    return i === part ? bounded(l - by * 1000) : l;
  });
}
const bounded = (value: number) => Math.round(Math.min(500, Math.max(-500, value)));
