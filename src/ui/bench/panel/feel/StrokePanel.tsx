"use client";
import { Flex, Text } from "@chakra-ui/react";
import { barLabel } from "../../../../core/score";
import type { Stroke } from "../../../../core/strokes";
import { KeyButton } from "../../../controls/buttons";
import { useBench } from "../../state";
import { useStrokes } from "../../useStrokes";
import { Block, ChoiceBar, Key, nearness, PanelHead } from "../parts";
import { FeelPanel } from "./FeelPanel";

const WAY: Readonly<Record<string, string>> = { down: "Down", up: "Up" };
const HAND = { bow: "bow", plectrum: "stroke", strum: "stroke" };

/** One stroke: why it goes so, the other way with its price, its length, and the lock. */
export function StrokePanel({ index }: { index: number }) {
  const plan = useStrokes();
  const hand = useBench((s) => s.hand);
  const turn = useBench((s) => s.turnStroke);
  const toggle = useBench((s) => s.toggleStrokeLock);
  const lengthen = useBench((s) => s.lengthenStroke);
  const refused = useBench((s) => s.strokeRefused);
  const hear = useBench((s) => s.hear);
  const stroke = plan.strokes[index];
  if (!stroke) return <FeelPanel />;
  const { place, direction, locked } = stroke;
  const name = direction ? (WAY[direction] ?? "") : "";
  return (
    <>
      <PanelHead
        title={direction ? `${name}-${HAND[hand]}, bar ${barLabel(place)}` : `No stroke, bar ${barLabel(place)}`}
        sub={`${whatOf(stroke)} · ${plan.style}${locked ? " · locked" : ""}`}
      />
      <Text mb="12px">{stroke.reason}</Text>
      {direction && (
        <Block title="Which way">
          <ChoiceBar name={name} worth={1} note={locked ? "yours" : "best"} chosen keyName="L" onTake={toggle} />
          {stroke.alternatives.map((a) => (
            <ChoiceBar
              key={a.direction}
              name={WAY[a.direction] ?? ""}
              worth={Math.exp(-Math.max(0, a.cost) / 4)}
              note={nearness(a.cost)}
              price={a.cost}
              keyName="↑"
              onTake={turn}
            />
          ))}
        </Block>
      )}
      <Flex gap="4px 12px" mt="8px" wrap="wrap">
        {direction && (
          <KeyButton onClick={toggle}>
            <Key>L</Key> {locked ? "free it" : "lock it"}
          </KeyButton>
        )}
        {hand === "bow" && (
          <>
            <KeyButton onClick={() => lengthen(1)}>
              <Key>J</Key> join the next note
            </KeyButton>
            {stroke.notes.length > 1 && (
              <KeyButton onClick={() => lengthen(-1)}>
                <Key>S</Key> leave out the last
              </KeyButton>
            )}
          </>
        )}
        <KeyButton onClick={() => hear(place.index, place.index)}>
          <Key>H</Key> hear the bar
        </KeyButton>
      </Flex>
      {refused && (
        <Text role="alert" fontSize="14px" color="madder" mt="6px">
          {refused}
        </Text>
      )}
    </>
  );
}

function whatOf({ notes, kind, pluck }: Stroke): string {
  if (notes.length > 1) return `${notes.length} notes in one bow`;
  if (notes.length === 1) return "one note";
  return pluck ? `${kind}, ${FINGERS[pluck] ?? pluck}` : kind;
}
const FINGERS: Readonly<Record<string, string>> = {
  T: "with the thumb",
  I: "with the index finger",
  M: "with the middle finger",
  index: "with the nail of the index finger",
};
