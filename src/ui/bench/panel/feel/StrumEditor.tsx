"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { changeStrum } from "../../../../core/ensemble";
import { beatTicks, QUARTER } from "../../../../core/score";
import { gridTrouble, SIGNS } from "../../../../core/strokes";
import { StrumSign } from "../../StrumSign";
import { useBench } from "../../state";
import css from "./strum.module.css";

/** Signs that are laid, in the order they are offered; the melody's place is the banjo's own. */
const LAID = ["B", "b", "D", "U", "d", "u", "x", "T", "."] as const;
const EIGHTH = QUARTER / 2;

/**
 * One bar of the strum, place by place. A sign is taken up and drawn over the places; or the arrows go from place to
 * place and a letter lays its sign.
 */
export function StrumEditor({ own }: { own: string }) {
  const metre = useBench((s) => s.work.tune.metre);
  const change = useBench((s) => s.change);
  const [taken, setTaken] = useState<string>("D");
  const [drawn, setDrawn] = useState<string | null>(null);
  const [trouble, setTrouble] = useState("");
  const drawing = useRef(false);
  const cells = useRef<(HTMLButtonElement | null)[]>([]);
  const grid = drawn ?? own;
  if (grid === "") return null;
  const laid = (now: string, place: number, sign: string) => now.slice(0, place) + sign + now.slice(place + 1);
  const keep = (next: string) => {
    const wrong = gridTrouble(next, metre);
    setTrouble(wrong ?? "");
    setDrawn(null);
    if (!wrong && next !== own) change("Strum drawn by hand", (w) => changeStrum(w, { grid: next, locks: [] }));
  };
  const byKey = (event: React.KeyboardEvent, place: number) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (step !== undefined) cells.current[(place + step + grid.length) % grid.length]?.focus();
    else if (event.key === " " || event.key === "Delete" || event.key === "Backspace") keep(laid(grid, place, "."));
    else if (Object.hasOwn(SIGNS, event.key)) {
      keep(laid(grid, place, event.key));
      cells.current[Math.min(grid.length - 1, place + 1)]?.focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const beat = beatTicks(metre);
  return (
    <Box mt="8px">
      <Flex
        role="group"
        aria-label="One bar of the strum"
        className={css.grid}
        onPointerLeave={() => drawing.current && end()}
      >
        {[...grid].map((sign, place) => (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: places of one bar, in order
            key={place}
            ref={(cell) => {
              cells.current[place] = cell;
            }}
            type="button"
            className={css.cell}
            data-beat={(place * EIGHTH) % beat === 0 ? "" : undefined}
            aria-label={`Place ${place + 1}: ${SIGNS[sign]?.words ?? sign}`}
            onKeyDown={(event) => byKey(event, place)}
            onPointerDown={(event) => {
              event.currentTarget.releasePointerCapture(event.pointerId);
              drawing.current = true;
              setDrawn(laid(grid, place, taken));
            }}
            onPointerEnter={() => {
              if (drawing.current) setDrawn(laid(drawn ?? own, place, taken));
            }}
            onPointerUp={end}
          >
            <StrumSign sign={sign} />
          </button>
        ))}
      </Flex>
      <Flex gap="2px" mt="6px" wrap="wrap" role="group" aria-label="Strokes to draw with">
        {LAID.map((sign) => (
          <button
            key={sign}
            type="button"
            className={css.sign}
            aria-pressed={taken === sign}
            aria-label={SIGNS[sign]?.words}
            title={`${SIGNS[sign]?.words} (${sign})`}
            onClick={() => setTaken(sign)}
          >
            <StrumSign sign={sign} />
          </button>
        ))}
      </Flex>
      <Text fontSize="13px" color={trouble ? "madder" : "quiet"} mt="4px" role={trouble ? "alert" : undefined}>
        {trouble || `Draw ${SIGNS[taken]?.words ?? "it"} over the bar, or type ${LAID.join(" ")} in a place.`}
      </Text>
    </Box>
  );

  /** Keeps what was drawn. */
  function end() {
    if (!drawing.current) return;
    drawing.current = false;
    keep(drawn ?? own);
  }
}
