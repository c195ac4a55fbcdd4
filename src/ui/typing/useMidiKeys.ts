"use client";
import { useEffect, useRef, useState } from "react";

/** A keyboard notes may come from. */
type Source = { id: string; name: string; start: (note: (noteNumber: number) => void) => () => void };

/** An invented phrase that the practice keyboard plays, a note at a time: MIDI number and milliseconds to the next. */
const PHRASE: readonly [number, number][] = [
  [62, 350],
  [64, 350],
  [66, 350],
  [69, 700],
  [71, 350],
  [69, 350],
  [66, 350],
  [64, 350],
  [62, 700],
];

/** A stand-in for a keyboard: plays its phrase as a player would, so that step entry can be tried without one. */
const PRACTICE: Source = {
  id: "practice",
  name: "Practice keyboard",
  start: (note) => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const play = (i: number) => {
      const [noteNumber, wait] = PHRASE[i] ?? [];
      if (noteNumber === undefined) return;
      note(noteNumber);
      timer = setTimeout(() => play(i + 1), wait);
    };
    timer = setTimeout(() => play(0), 200);
    return () => clearTimeout(timer);
  },
};

const fromInput = (input: MIDIInput): Source => ({
  id: input.id,
  name: input.name ?? "MIDI keyboard",
  start: (note) => {
    const hear = (event: MIDIMessageEvent) => {
      const [status = 0, noteNumber = 0, velocity = 0] = event.data ?? [];
      if ((status & 0xf0) === 0x90 && velocity > 0) note(noteNumber);
    };
    input.addEventListener("midimessage", hear as EventListener);
    return () => input.removeEventListener("midimessage", hear as EventListener);
  },
});

/** Keyboards connected through Web MIDI, and the practice one; notes of the chosen one go to `onNote`. */
export function useMidiKeys(onNote: (noteNumber: number) => void) {
  const [sources, setSources] = useState<readonly Source[]>([PRACTICE]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [asked, setAsked] = useState(false);
  const [words, setWords] = useState("");
  const latest = useRef(onNote);
  latest.current = onNote;

  useEffect(() => {
    const source = sources.find((s) => s.id === chosen);
    return source?.start((noteNumber) => latest.current(noteNumber));
  }, [chosen, sources]);

  const connect = async () => {
    setAsked(true);
    if (!("requestMIDIAccess" in navigator))
      return setWords("This browser does not know MIDI keyboards. Use the practice keyboard, or another browser.");
    try {
      const access = await navigator.requestMIDIAccess();
      const list = () => setSources([...[...access.inputs.values()].map(fromInput), PRACTICE]);
      access.addEventListener("statechange", list);
      list();
      setWords(
        access.inputs.size ? "Choose your keyboard." : "No MIDI keyboard is connected. Plug one in; it appears here.",
      );
    } catch {
      setWords("The browser did not allow MIDI keyboards. Allow them in its address line.");
    }
  };
  const choose = (id: string) => {
    if (id === "connect") return void connect();
    setChosen((old) => (old === id ? null : id));
    setWords(sources.find((s) => s.id === id) && chosen !== id ? "Listening: what you play is written." : "");
  };
  const choices = [
    ...(asked ? [] : [{ id: "connect", name: "Connect a MIDI keyboard" }]),
    ...sources.map(({ id, name }) => ({ id, name })),
  ];
  return { choices, chosen, choose, live: chosen !== null, words };
}
