"use client";
import { chakra, defineRecipe } from "@chakra-ui/react";

const type = { defaultProps: { type: "button" as const } };
const SIZES = {
  xs: { height: "30px", paddingInline: "8px", fontSize: "12px" },
  sm: { height: "34px", paddingInline: "12px", fontSize: "14px" },
  md: { height: "40px", paddingInline: "16px", fontSize: "15px" },
};
const base = {
  display: "inline-flex",
  alignItems: "center",
  justifyContent: "center",
  gap: "6px",
  borderRadius: "5px",
  fontWeight: "500",
  whiteSpace: "nowrap",
  cursor: "pointer",
  _disabled: { opacity: 0.45, cursor: "default" },
} as const;

const line = defineRecipe({
  base: {
    ...base,
    border: "1px solid",
    borderColor: "cord",
    color: "ink",
    bg: "transparent",
    "&:hover:not([aria-pressed=true])": { bg: "linen" },
    "&[aria-pressed=true]": { bg: "block", color: "onBlock", borderColor: "ink" },
  },
  variants: { size: SIZES, even: { true: { flex: "1" } } },
  defaultVariants: { size: "sm" },
});
/** A plain action in a thin frame; pressed, it is an ink block. `even` shares a row with its neighbours. */
export const LineButton = chakra("button", line, type);

const solid = defineRecipe({
  base: { ...base, bg: "block", color: "onBlock", fontWeight: "600" },
  variants: { size: SIZES },
  defaultVariants: { size: "sm" },
});
/** The one thing to do next. */
export const SolidButton = chakra("button", solid, type);

const link = defineRecipe({
  base: { ...base, color: "woad", textDecoration: "underline", fontSize: "14px", minHeight: "30px" },
  variants: { tone: { woad: {}, madder: { color: "madder" } } },
});
/** An action that reads as part of the text. */
export const LinkButton = chakra("button", link, type);

const key = defineRecipe({
  base: { ...base, color: "ink", fontSize: "14px", height: "34px", paddingInline: "2px", _hover: { bg: "linen" } },
});
/** An action named beside its key. */
export const KeyButton = chakra("button", key, type);
