"use client";
import { Box } from "@chakra-ui/react";
import { forwardRef, useRef } from "react";
import type { TypedProblem } from "../../core/typing";

type Props = { text: string; problems: readonly TypedProblem[]; onText: (text: string) => void; placeholder: string };

const FACE = {
  fontFamily: "ui-monospace, monospace",
  fontSize: "17px",
  lineHeight: "30px",
  padding: "8px 12px",
  whiteSpace: "pre-wrap",
  overflowWrap: "break-word",
  wordBreak: "break-word",
  letterSpacing: "0",
} as const;

/** The text cut where what is wrong with it changes; the shorter of two problems is shown inside the longer. */
function piecesOf(
  text: string,
  problems: readonly TypedProblem[],
): { text: string; wrong: TypedProblem | undefined }[] {
  const wrong = new Array<TypedProblem | undefined>(text.length);
  for (const p of [...problems].sort((a, b) => b.to - b.from - (a.to - a.from)))
    wrong.fill(p, p.from, Math.min(p.to, text.length));
  const pieces: { text: string; wrong: TypedProblem | undefined }[] = [];
  for (let i = 0; i < text.length; i++) {
    const last = pieces[pieces.length - 1];
    if (last && last.wrong === wrong[i]) last.text += text[i];
    else pieces.push({ text: text[i] as string, wrong: wrong[i] });
  }
  return pieces;
}

/** The writing box: what cannot be read is underlined where it stands, by a copy of the text behind the writing. */
export const NoteText = forwardRef<HTMLTextAreaElement, Props>(function NoteText(
  { text, problems, onText, placeholder },
  ref,
) {
  const behind = useRef<HTMLDivElement>(null);
  const pieces = piecesOf(text, problems);
  return (
    <Box
      position="relative"
      bg="fleece"
      border="1px solid"
      borderColor="quiet"
      borderRadius="6px"
      _focusWithin={{ outline: "2px solid var(--chakra-colors-woad)" }}
    >
      <div
        ref={behind}
        aria-hidden
        style={{
          ...FACE,
          position: "absolute",
          inset: 0,
          overflow: "hidden",
          color: "transparent",
          pointerEvents: "none",
        }}
      >
        {pieces.map((p, i) =>
          p.wrong ? (
            <mark
              // biome-ignore lint/suspicious/noArrayIndexKey: pieces of one text, in order
              key={i}
              data-problem
              style={{
                color: "transparent",
                background: "none",
                textDecoration: "underline wavy var(--chakra-colors-madder)",
                textUnderlineOffset: "5px",
              }}
            >
              {p.text}
            </mark>
          ) : (
            // biome-ignore lint/suspicious/noArrayIndexKey: pieces of one text, in order
            <span key={i}>{p.text}</span>
          ),
        )}
      </div>
      <textarea
        ref={ref}
        aria-label="Notes of the tune"
        value={text}
        rows={4}
        spellCheck={false}
        placeholder={placeholder}
        autoCapitalize="off"
        autoComplete="off"
        onChange={(e) => onText(e.target.value)}
        onScroll={(e) => {
          if (behind.current) behind.current.scrollTop = e.currentTarget.scrollTop;
        }}
        style={{
          ...FACE,
          position: "relative",
          display: "block",
          width: "100%",
          background: "transparent",
          color: "inherit",
          border: 0,
          outline: "none",
          resize: "vertical",
        }}
      />
    </Box>
  );
});
