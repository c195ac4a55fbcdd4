"use client";
import { IconButton } from "@chakra-ui/react";
import { createContext, useContext } from "react";
import { Play, Stop } from "../icons";
import { ask } from "../saving/ask";
import type { usePreviewPlayer } from "../sound/usePreviewPlayer";

/** The list's one player. */
export const ListPlayer = createContext<ReturnType<typeof usePreviewPlayer> | null>(null);

/** Plays a tune of the list, once through. */
export function PlayTune({ id, title }: { id: number; title: string }) {
  const player = useContext(ListPlayer);
  if (!player) return null;
  const name = String(id);
  const on = player.playing === name;
  const toggle = async () => {
    if (on) return player.stop();
    const answer = await ask(id, "tune", {});
    if (!answer.ok) player.fail(answer.problem);
    else if (answer.value) player.play(name, answer.value);
  };
  return (
    <IconButton
      aria-label={on ? `Stop ${title}` : `Hear ${title}`}
      title={on ? "Stop" : "Hear it"}
      size="sm"
      variant="ghost"
      color="ink"
      borderRadius="full"
      _hover={{ bg: "linen" }}
      onClick={() => void toggle()}
    >
      {on ? <Stop size={15} fill="currentColor" /> : <Play size={15} fill="currentColor" />}
    </IconButton>
  );
}
