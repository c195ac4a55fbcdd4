import { Box } from "@chakra-ui/react";

/** Each line's colour, shape and letter: never colour alone. Shapes are drawn in a 20 by 20 square. */
export const ROLES = {
  melody: { name: "Melody", letter: "M", color: "woad", path: "M10 1a9 9 0 1 0 0 18a9 9 0 1 0 0-18z", drop: 0 },
  low: { name: "Low harmony", letter: "L", color: "heather", path: "M0 2h20L10 20z", drop: -2 },
  high: { name: "High harmony", letter: "H", color: "heather", path: "M10 0l10 18H0z", drop: 2 },
  note: { name: "Long notes", letter: "N", color: "heather", path: "M0 4h20v12H0z", drop: 0 },
  chords: { name: "Chords", letter: "C", color: "lichen", path: "M10 0l10 10l-10 10L0 10z", drop: 0 },
} as const;
export type Role = keyof typeof ROLES;

/** The badge of a role. */
export function RoleBadge({ role, size = 20 }: { role: Role; size?: number }) {
  const { letter, path, color, drop } = ROLES[role];
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
          style={{ fill: "var(--chakra-colors-fleece)" }}
        >
          {letter}
        </text>
      </svg>
    </Box>
  );
}
