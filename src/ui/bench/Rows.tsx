"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Phrase } from "../../core/analysis";
import type { Derived } from "../../core/ensemble";
import type { Sheet } from "../../core/score";
import type { Lens, Selection } from "./lenses";
import { Row } from "./Row";
import type { NamingState } from "./useNaming";
import type { RivalState } from "./useRival";
import type { SecondState } from "./useSecond";
import type { Loop } from "./usePlayer";

type Props = {
  derived: Derived;
  sheet: Sheet;
  lens: Lens;
  selection: Selection;
  onSelect: (next: Selection) => void;
  bar: number;
  sounding: number | null;
  loop: Loop;
  onPick: (bar: number, extend: boolean) => void;
  rival: RivalState;
  second: SecondState;
  onDragLine: (index: number, steps: number) => void;
  onMoveChange: (index: number, beats: number) => void;
  naming: NamingState;
  onDrag: (bar: number, event: number, steps: number) => void;
};

/** Width of the gutter with the phrase's name, and the narrowest row that still holds four bars. */
export const GUTTER = 132;
const NARROW = 620;

/** All phrases, a row each; on narrow screens two bars a row. */
export function Rows(props: Props) {
  const { derived, sheet } = props;
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const measure = () =>
      setWidth(Math.floor((box.current?.clientWidth ?? 0) - (window.innerWidth < 700 ? 0 : GUTTER)));
    measure();
    const observer = new ResizeObserver(measure);
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const rows = useMemo(
    () =>
      derived.analysis.form.phrases.flatMap((phrase): { phrase: Phrase; from: number; to: number }[] => {
        const count = phrase.to - phrase.from + 1;
        if (width >= NARROW || count <= 3) return [{ phrase, from: phrase.from, to: phrase.to }];
        const middle = phrase.from + Math.ceil(count / 2);
        return [
          { phrase, from: phrase.from, to: middle - 1 },
          { phrase, from: middle, to: phrase.to },
        ];
      }),
    [derived, width],
  );
  return (
    <Box ref={box} pb="6">
      {width > 100 &&
        rows.map(({ phrase, from, to }) => (
          <Row key={from} {...props} sheet={sheet} phrase={phrase} from={from} to={to} width={width} />
        ))}
    </Box>
  );
}
