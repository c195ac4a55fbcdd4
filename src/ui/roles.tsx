import { Box } from "@chakra-ui/react";
import { type Role, ROLE_WORDS, type RoleName } from "../core/grading";

/** Everything that is heard has a badge: the roles of players, and the chords. */
export type Voice = Role | RoleName | "chords";

/** Each voice's colour, shape and letter: never colour alone. Shapes are drawn in a 20 by 20 square. */
const SIGNS: Record<Voice, { letter: string; color: string; path: string; drop: number }> = {
  melody: { letter: "M", color: "woad", path: "M10 1a9 9 0 1 0 0 18a9 9 0 1 0 0-18z", drop: 0 },
  "low harmony": { letter: "L", color: "heather", path: "M0 2h20L10 20z", drop: -2 },
  "high harmony": { letter: "H", color: "heather", path: "M10 0l10 18H0z", drop: 2 },
  "one-note harmony": { letter: "N", color: "heather", path: "M0 4h20v12H0z", drop: 0 },
  "simple melody": {
    letter: "m",
    color: "woad",
    path: "M10 1a9 9 0 1 0 0 18a9 9 0 1 0 0-18z",
    drop: 0,
  },
  drone: { letter: "D", color: "weld", path: "M2 2h16v16H2z", drop: 0 },
  "shuffle drone": { letter: "S", color: "weld", path: "M2 2h16v16H2z", drop: 0 },
  bass: { letter: "B", color: "walnut", path: "M2 2h16v16H2z", drop: 0 },
  strum: { letter: "C", color: "lichen", path: "M10 0l10 10l-10 10L0 10z", drop: 0 },
  "off-beats": { letter: "O", color: "lichen", path: "M0 15a10 12 0 0 1 20 0z", drop: 0 },
  "counter-figure": {
    letter: "K",
    color: "madder",
    path: "M0 6q5-6 10 0t10 0v10q-5 6-10 0t-10 0z",
    drop: 1,
  },
  "hand drum": { letter: "P", color: "walnut", path: "M5 1h10l5 9l-5 9H5L0 10z", drop: 0 },
  chords: { letter: "C", color: "lichen", path: "M10 0l10 10l-10 10L0 10z", drop: 0 },
};
const nameOf = (voice: Voice): string => {
  const words = voice === "chords" ? voice : ROLE_WORDS[voice];
  return `${words[0]?.toUpperCase()}${words.slice(1)}`;
};
/** Every voice by its name, and the sign it is known by. */
export const VOICES = Object.fromEntries(
  Object.entries(SIGNS).map(([voice, sign]) => [voice, { ...sign, name: nameOf(voice as Voice) }]),
) as Record<Voice, { name: string; letter: string; color: string; path: string; drop: number }>;

/** The badge of a voice. */
export function RoleBadge({ voice, size = 20 }: { voice: Voice; size?: number }) {
  const { letter, path, color, drop } = VOICES[voice];
  return (
    <Box as="span" display="inline-block" w={`${size}px`} h={`${size}px`} flexShrink={0} color={color} aria-hidden>
      <svg viewBox="0 0 20 20" width={size} height={size} role="presentation">
        <path d={path} fill="currentColor" />
        <text
          x="10"
          y={14 + drop}
          textAnchor="middle"
          fontSize="11"
          fontWeight="700"
          style={{ fill: `var(--chakra-colors-${color === "weld" ? "ink" : "fleece"})` }}
        >
          {letter}
        </text>
      </svg>
    </Box>
  );
}
