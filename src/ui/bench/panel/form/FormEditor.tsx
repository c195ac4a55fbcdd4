"use client";
import { PanelHead } from "../parts";

import { useFramed } from "./useForm";
import { Headings } from "./Headings";
import { KeyAndMetre } from "./KeyAndMetre";
import { Strains } from "./Strains";
import { BarLines, OddBars, Repeats } from "./Bars";

/** Bars, strains, key, metre and tempo: what frames the notes. Everything here works on the bar that is framed. */
export function FormEditor() {
  const { place, label, name } = useFramed();
  if (!place) return null;
  const { repeatStart, repeatEnd, ending } = place.bar;
  const facts = [
    `in ${label}`,
    ...(repeatStart ? ["a repeat starts"] : []),
    ...(repeatEnd ? ["a repeat ends"] : []),
    ...(ending ? [`ending ${ending.join(", ")}`] : []),
  ];
  return (
    <>
      <PanelHead title={name} sub={facts.join(" · ")} />
      <OddBars />
      <BarLines />
      <Repeats />
      <Strains />
      <KeyAndMetre />
      <Headings />
    </>
  );
}
