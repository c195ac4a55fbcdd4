"use client";
import { AS_WRITTEN, changeGroove, grooveFor, HANDS } from "../../../../core/ensemble";
import { GROOVES } from "../../../../core/feel";
import { ChoiceRow, Picker } from "../../../controls/Choice";
import { useBench } from "../../state";
import { PanelHead } from "../parts";
import { Accents } from "./Accents";
import { Bows } from "./Bows";
import { Dancers } from "./Dancers";
import { Ghosts } from "./Ghosts";
import { Passes } from "./Passes";
import { Picks } from "./Picks";
import { Reshape } from "./Reshape";
import { Strums } from "./Strums";

/** How the tune moves: its dance with accents and swing, and the strokes of the hand that is looked at. */
export function FeelPanel() {
  const work = useBench((s) => s.work);
  const analysis = useBench((s) => s.derived.analysis);
  const groove = grooveFor(work, { analysis });
  return (
    <>
      <PanelHead
        title={groove ? `${capital(groove.name)}, ${groove.character}` : "As it is written"}
        sub={groove ? groove.lift : "every note where and as long as it stands"}
      />
      <Dance own={analysis.dance.name} />
      {groove && <Accents groove={groove} />}
      <Hands />
      <Passes />
      <Reshape />
      <Ghosts />
      {groove && <Dancers groove={groove} />}
    </>
  );
}
const capital = (text: string) => `${text[0]?.toUpperCase()}${text.slice(1)}`;

function Dance({ own }: { own: string }) {
  const chosen = useBench((s) => s.work.feel.groove);
  const change = useBench((s) => s.change);
  const options = [
    { value: "", words: `its own: ${own}` },
    ...GROOVES.map((g) => ({ value: g.name, words: g.name })),
    { value: AS_WRITTEN, words: "straight, as written" },
  ];
  return (
    <Picker
      label="Danced as"
      of={options}
      now={chosen ?? ""}
      onTake={(name) =>
        change(name ? `Danced as ${name}` : "Danced as its own dance", (w) => changeGroove(w, { groove: name || null }))
      }
    />
  );
}

const PANELS = { bow: Bows, plectrum: Picks, strum: Strums };

/** Which hand is looked at, and its own choices. */
function Hands() {
  const hand = useBench((s) => s.hand);
  const setHand = useBench((s) => s.setHand);
  const Own = PANELS[hand];
  return (
    <div style={{ marginTop: 16 }}>
      <ChoiceRow label="Hand" of={HANDS} now={hand} onTake={setHand} />
      <Own />
    </div>
  );
}
