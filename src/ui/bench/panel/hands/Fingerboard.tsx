"use client";
import { arrangedFor, handFor } from "../../../../core/ensemble";
import type { Instrument } from "../../../../core/instruments";
import type { Lie, StringUse } from "../../../../core/technique";
import { placeName } from "../../../../core/spelling";
import { className, midi, pitchName } from "../../../../core/theory";
import { signed } from "../../../signs";
import { useBench } from "../../state";

const WIDTH = 276;
const ROW = 27;
const TOP = 34;
/** Room for a name beside the last string. */
const NAME = 14;

/** A spot is large enough for "L2", and larger the longer its note sounds. */
const radius = (ticks: number, most: number) => 9.5 + 4 * Math.sqrt(ticks / most);
const above = (s: StringUse, note: number) => note - midi(s.open);
/** Open strings are hollow; a low second finger is madder, all other fingers woad. */
function fillOf(place: number, low: boolean): string {
  if (place === 0) return "var(--chakra-colors-fleece)";
  return low ? "var(--chakra-colors-madder)" : "var(--chakra-colors-woad)";
}
const notesOn = (s: StringUse) => s.notes.map((n) => `${pitchName(n.pitch)} ${n.count} times`).join(", ");

/** A note of the bar that is looked at: the order of its string from the lowest course, semitones above it, when. */
type Step = { string: number; semitones: number; at: number; ticks: number };

/** The melody notes of the bar that is looked at, where the hand plays them. */
function useSteps(own: Instrument): { steps: Step[]; sounding: Step | undefined } {
  const bar = useBench((s) => s.sounding ?? s.bar);
  const made = useBench((s) => arrangedFor(s.work, s.derived, handFor(s.work, own.name)));
  const places = useBench((s) => s.derived.analysis.places);
  const lit = useBench((s) => s.lights.find((id) => id.split(".")[1] === String(bar)));
  const steps = (made?.strokes ?? []).flatMap(({ place, at, ticks, notes }): Step[] => {
    const melody = notes.find((n) => n.role === "melody");
    if (place.index !== bar || !melody || !made) return [];
    const string = made.board.strings.findIndex((s) => s.number === melody.string);
    return [{ string, semitones: melody.noteNumber - (made.board.strings[string]?.open ?? 0), at, ticks }];
  });
  const event = lit === undefined ? -1 : Number(lit.split(".")[2]);
  const place = places.find((p) => p.index === bar);
  const before = place?.bar.events.slice(0, Math.max(0, event)).reduce((sum, e) => sum + e.ticks, 0) ?? 0;
  const now = place && event >= 0 ? place.at + before : undefined;
  return { steps, sounding: steps.find((s) => now !== undefined && s.at <= now && now < s.at + s.ticks) };
}

/**
 * The tune's notes where the hand finds them: strings side by side, a spot for every note, as large as it sounds long.
 * Free strings are dashed. The path of the bar that is looked at, or sounds, runs over it from note to note; what
 * sounds is ringed.
 */
export function Fingerboard({ on, lie }: { on: Instrument; lie: Lie }) {
  const { steps, sounding } = useSteps(on);
  const most = Math.max(1, ...lie.strings.flatMap((s) => s.notes.map((n) => n.ticks)));
  const farthest = steps.map((s) => s.semitones);
  const deepest = Math.max(4, ...farthest, ...lie.strings.flatMap((s) => s.notes.map((n) => above(s, midi(n.pitch)))));
  const height = TOP + (deepest + 0.8) * ROW;
  const x = (i: number) => ((i + 0.5) * (WIDTH - NAME)) / on.strings.length;
  const y = (semitones: number) => TOP + semitones * ROW;
  const words = lie.strings.map((s) => `${className(s.open)} string: ${notesOn(s) || "free"}`).join("; ");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      role="img"
      aria-label={words}
      style={{ display: "block", fontFamily: "inherit" }}
    >
      <line
        x1={x(0) - 22}
        x2={x(on.strings.length - 1) + 22}
        y1={TOP + 12}
        y2={TOP + 12}
        stroke="var(--chakra-colors-ink)"
        strokeWidth="3"
      />
      {on.hand === "frets" &&
        Array.from({ length: deepest }, (_, i) => y(i + 1) + 11).map((at) => (
          <line
            key={at}
            x1={x(0) - 22}
            x2={x(on.strings.length - 1) + 22}
            y1={at}
            y2={at}
            stroke="var(--chakra-colors-cord)"
          />
        ))}
      <polyline
        points={steps.map((s) => `${x(s.string)},${y(s.semitones)}`).join(" ")}
        fill="none"
        stroke="var(--chakra-colors-weld)"
        strokeWidth={5}
        strokeLinejoin="round"
        opacity={0.9}
        pointerEvents="none"
      />
      {steps[0] && <circle cx={x(steps[0].string)} cy={y(steps[0].semitones)} r={4} fill="var(--chakra-colors-weld)" />}
      {lie.strings.map((s, i) => (
        <g key={`${className(s.open)}${midi(s.open)}`}>
          <line
            x1={x(i)}
            x2={x(i)}
            y1={TOP + 12}
            y2={height}
            stroke="var(--chakra-colors-quiet)"
            strokeWidth={2.6 - i * 0.4}
            strokeDasharray={s.ticks ? undefined : "3 4"}
          />
          <text x={x(i)} y={13} textAnchor="middle" fontWeight="700" fontSize="14" fill="var(--chakra-colors-ink)">
            {signed(className(s.open))}
          </text>
          {s.notes.map((n) => {
            const place = above(s, midi(n.pitch));
            const r = radius(n.ticks, most);
            const second = n.finger === 2 && on.hand === "violin";
            return (
              <g key={midi(n.pitch)}>
                <circle
                  cx={x(i)}
                  cy={y(place)}
                  r={r}
                  fill={fillOf(place, second && n.low)}
                  stroke="var(--chakra-colors-woad)"
                  strokeWidth={place === 0 ? 2 : 0}
                />
                <text
                  x={x(i)}
                  y={y(place) + 4}
                  textAnchor="middle"
                  fontSize="12"
                  fontWeight="700"
                  fill={place === 0 ? "var(--chakra-colors-ink)" : "var(--chakra-colors-fleece)"}
                >
                  {placeName(n)}
                </text>
                <text x={x(i) + r + 4} y={y(place) + 4} fontSize="12" fill="var(--chakra-colors-quiet)">
                  {signed(className(n.pitch))}
                </text>
              </g>
            );
          })}
        </g>
      ))}
      {sounding && (
        <circle
          data-sounding
          cx={x(sounding.string)}
          cy={y(sounding.semitones)}
          r={17}
          fill="none"
          stroke="var(--chakra-colors-madder)"
          strokeWidth={3}
        />
      )}
    </svg>
  );
}
