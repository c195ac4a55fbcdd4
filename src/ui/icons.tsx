import type { SVGProps } from "react";

// Drawings of Lucide (ISC License, see docs/notices.md), the few that are used, each on a field of 24 by 24.
const dot = (cx: number, cy: number, r: number) =>
  `M${cx - r} ${cy}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
const MOON =
  "M20.985 12.486a9 9 0 1 1-9.473-9.472c.405-.022.617.46.402.803a6 6 0 0 0 8.268 8.268c.344-.215.825-.004.803.401";
const PLAY = "M5 5a2 2 0 0 1 3.008-1.728l11.997 6.998a2 2 0 0 1 .003 3.458l-12 7A2 2 0 0 1 5 19z";
const RAYS = [
  "M12 2v2",
  "M12 20v2",
  "m4.93 4.93 1.41 1.41",
  "m17.66 17.66 1.41 1.41",
  "M2 12h2",
  "M20 12h2",
  "m6.34 17.66-1.41 1.41",
  "m19.07 4.93-1.41 1.41",
];
const PRINTER = [
  "M6 18H4a2 2 0 0 1-2-2v-5a2 2 0 0 1 2-2h16a2 2 0 0 1 2 2v5a2 2 0 0 1-2 2h-2",
  "M6 9V3a1 1 0 0 1 1-1h10a1 1 0 0 1 1 1v6",
  "M7 14h10a1 1 0 0 1 1 1v6a1 1 0 0 1-1 1H7a1 1 0 0 1-1-1v-6a1 1 0 0 1 1-1",
];

type Props = SVGProps<SVGSVGElement> & { size?: number };

/** A sign drawn in strokes; who reads the page aloud passes it by. */
const icon = (paths: readonly string[]) =>
  function Icon({ size = 24, ...rest }: Props) {
    return (
      <svg
        aria-hidden
        width={size}
        height={size}
        viewBox="0 0 24 24"
        fill="none"
        stroke="currentColor"
        strokeWidth={2}
        strokeLinecap="round"
        strokeLinejoin="round"
        {...rest}
      >
        {paths.map((d) => (
          <path key={d} d={d} />
        ))}
      </svg>
    );
  };

export const ArrowDown = icon(["M12 5v14", "m19 12-7 7-7-7"]);
export const ArrowUp = icon(["m5 12 7-7 7 7", "M12 19V5"]);
export const ChevronDown = icon(["m6 9 6 6 6-6"]);
export const ChevronUp = icon(["m18 15-6-6-6 6"]);
export const Close = icon(["M18 6 6 18", "m6 6 12 12"]);
export const Help = icon([dot(12, 12, 10), "M9 9.5a3 2.5 0 0 1 6 0c0 2-2 2-3 3.5", "M12 17h.01"]);
export const Loop = icon(["m17 2 4 4-4 4", "M3 11v-1a4 4 0 0 1 4-4h14", "m7 22-4-4 4-4", "M21 13v1a4 4 0 0 1-4 4H3"]);
export const Menu = icon(["M4 5h16", "M4 12h16", "M4 19h16"]);
export const Moon = icon([MOON]);
export const Play = icon([PLAY]);
export const Printer = icon(PRINTER);
export const Redo = icon(["m15 14 5-5-5-5", "M20 9H9.5A5.5 5.5 0 0 0 4 14.5A5.5 5.5 0 0 0 9.5 20H13"]);
export const Stairs = icon(["M3 20h5v-5h5v-5h5V5h3"]);
export const Stop = icon(["M5 3h14a2 2 0 0 1 2 2v14a2 2 0 0 1-2 2H5a2 2 0 0 1-2-2V5a2 2 0 0 1 2-2"]);
export const Sun = icon([dot(12, 12, 4), ...RAYS]);
export const Undo = icon(["M9 14 4 9l5-5", "M4 9h10.5a5.5 5.5 0 0 1 5.5 5.5a5.5 5.5 0 0 1-5.5 5.5H11"]);
