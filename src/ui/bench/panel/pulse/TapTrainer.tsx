"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { tapped } from "../../../../core/feel";
import { barLabelAt } from "../../../../core/score";
import { LineButton, LinkButton } from "../../../controls/buttons";
import { ChoiceRow } from "../../../controls/Choice";
import { useBench } from "../../state";
import { type Tap, TAPPED_ON, type TappedOn } from "../../state/model";
import { Block, Key } from "../parts";

const WIDTH = 276;
const MIDDLE = WIDTH / 2;
const ROW = 7;
const TOP = 18;
/** Taps that are drawn, and milliseconds from the middle to the edge. */
const SHOWN = 12;
const EDGE = 150;
/** A tap farther off than this is madder. Milliseconds. */
const FAR = 50;
/** Latency under this is not worth a word. Milliseconds. */
const NOTICED = 1;

const WORDS: Record<TappedOn, string> = { tune: "every note", beats: "the beats" };

/** Tapping along: by key, on the screen, or clapped; early and late as weft left and right of the warp. */
export function TapTrainer() {
  const taps = useBench((s) => s.taps);
  const playing = useBench((s) => s.playing);
  const tappedOn = useBench((s) => s.tappedOn);
  const setTappedOn = useBench((s) => s.setTappedOn);
  const tap = useBench((s) => s.tap);
  const clear = useBench((s) => s.clearTaps);
  const { words } = tapped(taps.map((t) => t.late));
  return (
    <Block title="Tap along">
      <ChoiceRow label="Tap" of={TAPPED_ON} now={tappedOn} words={(on) => WORDS[on]} onTake={setTappedOn} />
      <Box
        as="button"
        display="block"
        w="100%"
        mt="6px"
        bg="linen"
        borderRadius="6px"
        minH="44px"
        style={{ touchAction: "manipulation" }}
        aria-label="Tap here"
        onPointerDown={(event: React.PointerEvent) => {
          if (playing) tap(event.timeStamp);
        }}
      >
        <Picture taps={taps.slice(-SHOWN)} />
      </Box>
      <Flex justify="space-between" align="baseline" gap="8px" mt="4px">
        <Text fontSize="14px" role="status">
          {playing || taps.length > 0 ? words : "Play, then tap here or with"}{" "}
          {!playing && taps.length === 0 && <Key>X</Key>}
        </Text>
        {taps.length > 0 && (
          <LinkButton fontSize="13px" minH="0" onClick={clear}>
            anew
          </LinkButton>
        )}
      </Flex>
      <Clappers />
    </Block>
  );
}

/** The taps, the newest lowest: how far each lies left (early) or right (late) of its note. */
function Picture({ taps }: { taps: readonly Tap[] }) {
  const places = useBench((s) => s.derived.analysis.places);
  const x = (late: number) => MIDDLE + (Math.max(-EDGE, Math.min(EDGE, late)) / EDGE) * (MIDDLE - 8);
  const height = TOP + SHOWN * ROW + 16;
  const words = taps.map(
    ({ late, bar }) => `bar ${barLabelAt(places, bar)} ${Math.abs(Math.round(late))} ms ${late < 0 ? "early" : "late"}`,
  );
  return (
    <svg viewBox={`0 0 ${WIDTH} ${height}`} width="100%" role="img" aria-label={words.join(", ") || "No taps yet"}>
      <g fontSize="12" fill="var(--chakra-colors-quiet)">
        <text x={6} y={13}>
          early
        </text>
        <text x={WIDTH - 6} y={13} textAnchor="end">
          late
        </text>
        {[-100, -50, 50, 100].map((ms) => (
          <g key={ms}>
            <line x1={x(ms)} x2={x(ms)} y1={TOP} y2={height - 14} stroke="var(--chakra-colors-cord)" />
            <text x={x(ms)} y={height - 3} textAnchor="middle">
              {Math.abs(ms)}
            </text>
          </g>
        ))}
      </g>
      <line x1={MIDDLE} x2={MIDDLE} y1={4} y2={height - 14} stroke="var(--chakra-colors-ink)" strokeWidth={2} />
      {taps.map(({ late }, i) => (
        <rect
          // biome-ignore lint/suspicious/noArrayIndexKey: taps in order
          key={i}
          x={Math.min(MIDDLE, x(late))}
          y={TOP + i * ROW + 1}
          width={Math.max(2, Math.abs(x(late) - MIDDLE))}
          height={ROW - 2}
          rx={1.5}
          fill={`var(--chakra-colors-${Math.abs(late) > FAR ? "madder" : "woad"})`}
        />
      ))}
    </svg>
  );
}

/** Who else may tap: the room through the microphone, or a clapper that comes with the program. */
function Clappers() {
  const listening = useBench((s) => s.listening);
  const latency = useBench((s) => s.latency);
  const taps = useBench((s) => s.taps.length);
  const listen = useBench((s) => s.listen);
  const settle = useBench((s) => s.settleLatency);
  const button = (who: "microphone" | "clapper", words: string, title: string) => (
    <LineButton
      size="xs"
      even
      title={title}
      aria-pressed={listening === who}
      onClick={() => listen(listening === who ? null : who)}
    >
      {words}
    </LineButton>
  );
  return (
    <>
      <Flex gap="4px" mt="6px">
        {button("microphone", "hear claps", "Claps through the microphone; play the tune on headphones")}
        {button("clapper", "show me", "A clapper that comes with the program claps along, a little behind")}
      </Flex>
      {listening === "microphone" && (
        <Text fontSize="13px" color="quiet" mt="4px">
          Use headphones, so that only the claps are heard. Nothing is recorded.
        </Text>
      )}
      {listening === "microphone" && taps >= 8 && (
        <LinkButton fontSize="13px" minH="26px" onClick={settle}>
          these were in time: take the rest as the device’s delay
        </LinkButton>
      )}
      {Math.abs(latency) > NOTICED && (
        <Text fontSize="13px" color="quiet">
          {Math.round(latency)} ms are taken off for the device.
        </Text>
      )}
    </>
  );
}
