"use client";
import { Slider } from "@chakra-ui/react";
import { useState } from "react";

type Props = {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  color: string;
  /** While the hand is on it; null when it lets go. */
  onSlide: (value: number | null) => void;
  /** Once, when the hand lets go: one step of the history for one slide, however far it goes. */
  onTake: (value: number) => void;
};

/** A value between two others, slid by hand or moved by the arrow keys. */
export function Slide({ label, value, min, max, step, color, onSlide, onTake }: Props) {
  const [sliding, setSliding] = useState<number | null>(null);
  const shown = sliding ?? value;
  return (
    <Slider.Root
      mt="8px"
      min={min}
      max={max}
      step={step}
      value={[shown]}
      onValueChange={(now) => {
        setSliding(now.value[0] ?? null);
        onSlide(now.value[0] ?? null);
      }}
      onValueChangeEnd={(now) => {
        setSliding(null);
        onSlide(null);
        onTake(now.value[0] ?? value);
      }}
      aria-label={[label]}
    >
      <Slider.Control>
        <Slider.Track bg="cord">
          <Slider.Range bg={color} />
        </Slider.Track>
        <Slider.Thumb index={0} bg="fleece" borderColor="ink">
          <Slider.HiddenInput />
        </Slider.Thumb>
      </Slider.Control>
    </Slider.Root>
  );
}
