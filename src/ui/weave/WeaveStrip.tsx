"use client";
import { Box, Flex } from "@chakra-ui/react";
import { memo } from "react";
import type { Cell } from "../../core/analysis";

const DYES = ["woad", "madder", "lichen", "heather", "walnut"];

type Props = {
  cells: readonly Cell[];
  height: number;
  /** Bar numbers in the cells; only where there is room. */
  numbered?: boolean;
  current?: number | null | undefined;
  sounding?: number | null | undefined;
  loop?: { from: number; to: number } | null | undefined;
  onPick?: (bar: number, extend: boolean) => void;
};

/**
 * The woven picture of a tune: one cell a bar, dye for notes, texture for rhythm, weld where a phrase parts from its
 * model.
 */
export const WeaveStrip = memo(function WeaveStrip({
  cells,
  height,
  numbered = false,
  current,
  sounding,
  loop,
  onPick,
}: Props) {
  const content = cells.map((cell, i) => {
    const chosen = sounding === cell.bar || (sounding == null && current === cell.bar);
    const outside = loop && (cell.bar < loop.from || cell.bar > loop.to);
    const newPhrase = i > 0 && cells[i - 1]?.phrase !== cell.phrase;
    return (
      <Box
        key={cell.bar}
        {...(onPick
          ? {
              as: "button",
              "aria-label": cell.says,
              "aria-current": chosen ? ("true" as const) : undefined,
              onPointerDown: (e: React.PointerEvent) => {
                e.currentTarget.releasePointerCapture?.(e.pointerId);
                onPick(cell.bar, e.shiftKey);
              },
              onPointerEnter: (e: React.PointerEvent) => {
                if (e.buttons === 1) onPick(cell.bar, true);
              },
              onKeyDown: (e: React.KeyboardEvent) => {
                if (e.key === "Enter") onPick(cell.bar, e.shiftKey);
              },
            }
          : {})}
        title={cell.says}
        data-texture={cell.texture % 5}
        flex={cell.pickup ? "0 0 8px" : "1 1 0"}
        minW="3px"
        h="100%"
        position="relative"
        bgColor={
          cell.parting
            ? "weld"
            : cell.linen
              ? "cord"
              : cell.echo
                ? `${DYES[cell.dye % DYES.length]}Pale`
                : DYES[cell.dye % DYES.length]
        }
        data-dye={cell.linen ? "linen" : cell.parting ? "weld" : DYES[cell.dye % DYES.length]}
        opacity={outside ? 0.35 : 1}
        ml={newPhrase ? "2px" : undefined}
        borderLeft={i === 0 || newPhrase ? undefined : "1px solid var(--chakra-colors-fleece)"}
        borderTopLeftRadius={cell.opens ? "8px" : i === 0 ? "2px" : undefined}
        borderBottomLeftRadius={cell.opens ? "8px" : i === 0 ? "2px" : undefined}
        borderTopRightRadius={cell.closes ? "8px" : undefined}
        borderBottomRightRadius={cell.closes ? "8px" : undefined}
        borderTop={cell.ending ? "3px solid var(--chakra-colors-ink)" : undefined}
        outline={chosen ? "2.5px solid var(--chakra-colors-ink)" : undefined}
        outlineOffset="-1px"
        zIndex={chosen ? 1 : undefined}
        cursor={onPick ? "pointer" : undefined}
      >
        {numbered && (i === 0 || newPhrase) && (
          <Box
            as="span"
            position="absolute"
            left="3px"
            top="2px"
            px="2px"
            fontSize="12px"
            lineHeight="13px"
            fontWeight="700"
            fontFamily="heading"
            bg="fleece"
            color="ink"
            borderRadius="2px"
            zIndex={2}
            whiteSpace="nowrap"
          >
            {cell.phrase}
            {cell.echo && height > 24 ? ` ${cell.echo}` : ""}
          </Box>
        )}
        {numbered && !cell.pickup && (
          <Box
            as="span"
            position="absolute"
            left="3px"
            bottom="2px"
            px="2px"
            fontSize="12px"
            lineHeight="14px"
            fontWeight="600"
            bg="fleece"
            color="ink"
            borderRadius="2px"
          >
            {cell.number}
          </Box>
        )}
      </Box>
    );
  });
  return (
    <Flex
      h={`${height}px`}
      align="stretch"
      {...(onPick ? { role: "group", "aria-label": "Bars of the tune" } : { "aria-hidden": true })}
      userSelect="none"
    >
      {content}
    </Flex>
  );
});
