"use client";
import { SIGNS } from "../../core/strokes";

const SIZE = 24;
const MIDDLE = SIZE / 2;

/** A stroke of a strum as it is drawn: each kind has its own shape, its way by the arrow, light ones thin. */
export function StrumSign({ sign }: { sign: string }) {
  const { kind, direction, light } = SIGNS[sign] ?? SIGNS["."] ?? { kind: "rest", direction: null };
  const ink = `var(--chakra-colors-${COLOURS[kind] ?? "ink"})`;
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      width={SIZE}
      height={SIZE}
      aria-hidden
      style={{ display: "block", margin: "0 auto" }}
    >
      {kind === "brush" && <Arrow up={direction === "up"} light={light === true} ink={ink} />}
      {kind === "bass" && (
        <rect x={6} y={6} width={12} height={12} fill={sign === "B" ? ink : "none"} stroke={ink} strokeWidth={2} />
      )}
      {kind === "chop" && <path d="M6 6 L18 18 M18 6 L6 18" stroke={ink} strokeWidth={2.5} strokeLinecap="round" />}
      {kind === "thumb" && <circle cx={MIDDLE} cy={MIDDLE} r={5} fill="none" stroke={ink} strokeWidth={2.5} />}
      {kind === "melody" && <circle cx={MIDDLE} cy={MIDDLE} r={6} fill={ink} />}
      {kind === "rest" && <circle cx={MIDDLE} cy={MIDDLE} r={1.5} fill="var(--chakra-colors-quiet)" />}
    </svg>
  );
}
const COLOURS: Readonly<Record<string, string>> = { bass: "walnut", melody: "woad", thumb: "weld", chop: "madder" };

/** A brush: an arrow the way the hand goes. */
function Arrow({ up, light, ink }: { up: boolean; light: boolean; ink: string }) {
  const [tail, tip] = up ? [20, 4] : [4, 20];
  const back = up ? 6 : -6;
  return (
    <path
      d={`M12 ${tail} V${tip} M7 ${tip + back} L12 ${tip} L17 ${tip + back}`}
      fill="none"
      stroke={ink}
      strokeWidth={light ? 1.4 : 2.8}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  );
}
