"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { parseAsString, useQueryState } from "nuqs";
import { INSTRUMENTS, type Instrument, instrument } from "../../../core/instruments";
import { type Shape, shapesOf } from "../../../core/technique";
import { Picker } from "../../controls/Choice";
import { Block } from "./parts";

const FRETTED = INSTRUMENTS.filter((i) => i.frets);
const GUITAR = "guitar";
/** Shapes that are shown, the easiest first. */
const SHOWN = 3;

/** How a chord is held on a fretted instrument: its easiest shapes, worked out from the strings. */
export function ChordShapes({ symbol }: { symbol: string }) {
  const [name, setName] = useQueryState("shapes", parseAsString.withDefault(GUITAR));
  const on = instrument(name) ?? instrument(GUITAR);
  if (!on?.frets) return null;
  const shapes = shapesOf(on, symbol).slice(0, SHOWN);
  return (
    <Block title="How it is held">
      <Picker label="Shapes on" of={FRETTED.map((i) => i.name)} now={on.name} onTake={(n) => void setName(n)} />
      <Flex gap="10px" mt="6px">
        {shapes.map((shape) => (
          <Diagram key={shapeName(on, shape)} on={on} shape={shape} />
        ))}
      </Flex>
      {shapes.length === 0 && <Text fontSize="14px">Nothing of it lies under one hand.</Text>}
    </Block>
  );
}

/** A shape as it is written: a fret for each string from the lowest course, x where it is silent. */
const shapeName = (on: Instrument, { held }: Shape): string =>
  on.strings.map((_, i) => held.find((h) => h.string === i)?.fret.label ?? "x").join(" ");

const WIDTH = 84;
const TOP = 22;
const ROW = 17;
const ROWS = 5;
const SIDE = 12;
const DOT = 6;

/**
 * One shape over its strings: spots where fingers are, a ring over an open string, a cross over a silent one. Frets lie
 * where the instrument has them, half frets between; a short string starts lower down.
 */
function Diagram({ on, shape }: { on: Instrument; shape: Shape }) {
  const strings = on.strings.length;
  const frets = on.frets ?? [];
  const x = (i: number) => SIDE + (i * (WIDTH - 2 * SIDE)) / Math.max(1, strings - 1);
  const order = (semitones: number) => frets.findIndex((f) => f.semitones === semitones);
  const highest = Math.max(...shape.held.map((h) => order(h.fret.semitones)));
  const first = highest > ROWS ? Math.min(...shape.held.map((h) => order(h.fret.semitones)).filter((o) => o > 0)) : 1;
  const y = (o: number) => TOP + (o - first + 0.5) * ROW;
  const height = TOP + ROWS * ROW + 14;
  const label = frets[first]?.label;
  const words = `${on.name}: ${shapeName(on, shape)}, from the lowest string`;
  return (
    <Box textAlign="center">
      <svg viewBox={`0 0 ${WIDTH} ${height}`} width={WIDTH} height={height} role="img" aria-label={words}>
        <line
          x1={x(0)}
          x2={x(strings - 1)}
          y1={TOP}
          y2={TOP}
          stroke="var(--chakra-colors-ink)"
          strokeWidth={first === 1 ? 3 : 1}
        />
        {[...Array(ROWS).keys()].map((row) => {
          const half = frets[first + row]?.label.endsWith("+") === true;
          return (
            <line
              key={row}
              x1={x(0)}
              x2={x(strings - 1)}
              y1={TOP + (row + 1) * ROW}
              y2={TOP + (row + 1) * ROW}
              stroke="var(--chakra-colors-quiet)"
              strokeDasharray={half ? "3 2" : undefined}
              strokeWidth={0.8}
            />
          );
        })}
        {on.strings.map(({ number, shortFrom }, i) => {
          const held = shape.held.find((h) => h.string === i);
          const at = held ? order(held.fret.semitones) : 0;
          const starts = shortFrom ? TOP + ROW * (ROWS - 1) : TOP;
          return (
            <g key={number}>
              <line x1={x(i)} x2={x(i)} y1={starts} y2={TOP + ROWS * ROW} stroke="var(--chakra-colors-walnut)" />
              {held && at > 0 && <circle cx={x(i)} cy={y(at)} r={DOT} fill="var(--chakra-colors-woad)" />}
              {held && at === 0 && (
                <circle cx={x(i)} cy={TOP - 9} r={4} fill="none" stroke="var(--chakra-colors-woad)" strokeWidth={1.6} />
              )}
              {!held && !shortFrom && (
                <path
                  d={`M${x(i) - 3.5} ${TOP - 12.5} l7 7 M${x(i) + 3.5} ${TOP - 12.5} l-7 7`}
                  stroke="var(--chakra-colors-quiet)"
                  strokeWidth={1.4}
                />
              )}
            </g>
          );
        })}
        {first > 1 && (
          <text x={2} y={y(first) + 4} fontSize="12" fill="var(--chakra-colors-quiet)">
            {label}
          </text>
        )}
      </svg>
      <Text fontSize="12px" color="quiet" fontFamily="mono" lineHeight="14px">
        {shapeName(on, shape)}
      </Text>
    </Box>
  );
}
