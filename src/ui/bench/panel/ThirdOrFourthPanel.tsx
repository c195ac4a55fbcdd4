"use client";
import { Button, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import type { Derived, Work } from "../../../core/ensemble";
import { deriveHarmony, type ThirdOrFourth, thirdOrFourth, THIRDS } from "../../../core/harmony";
import { beatAt, beatsWords, type Place } from "../../../core/score";
import { pitchName } from "../../../core/theory";
import { answerThirdOrFourth } from "../../../server/actions";
import type { PlayerState } from "../usePlayer";
import { Block, PanelHead } from "./parts";

const sign = (name: string) => name.slice(0, -1).replace("b", "♭").replace("#", "♯");
type Props = {
  id: number;
  work: Work;
  derived: Derived;
  player: PlayerState;
  onBar: (bar: number) => void;
  onDone: () => void;
};

/**
 * Third or fourth? The bar is heard with each; choose the one that fits, then see why. Results are kept with the tune.
 */
export function ThirdOrFourthPanel({ id, work, derived, player, onBar, onDone }: Props) {
  const { places } = derived.analysis;
  const questions = useMemo(
    () => thirdOrFourth(derived.analysis.places, derived.plan, work.side),
    [derived, work.side],
  );
  const [order, setOrder] = useState(0);
  const [chosen, setChosen] = useState<"third" | "fourth" | null>(null);
  const [tally, setTally] = useState({ asked: 0, right: 0 });
  useEffect(() => {
    void answerThirdOrFourth(id).then(setTally);
  }, [id]);
  const question = questions[order % Math.max(1, questions.length)];
  const place = question && (places[question.bar] as Place);

  const hear = (which: "third" | "fourth") => {
    if (!question) return;
    onBar(question.bar);
    const line = deriveHarmony({
      places,
      plan: derived.plan,
      phraseEnds: new Set(),
      school: THIRDS,
      side: work.side,
      locks: [{ bar: question.bar, at: question.at, pitch: question[which] }],
    });
    player.play(question.bar, question.bar, false, false, line);
  };
  const choose = (which: "third" | "fourth", asked: ThirdOrFourth) => {
    if (chosen) return;
    setChosen(which);
    void answerThirdOrFourth(id, { bar: asked.bar, at: asked.at, right: which === asked.fits }).then(setTally);
  };
  return (
    <>
      <PanelHead
        title="Third or fourth?"
        sub={tally.asked ? `${tally.right} of ${tally.asked} right on this tune` : "hear both, then choose"}
      />
      {question && place ? (
        <>
          <Text mb="10px">
            Bar {place.number}, beat {beatsWords(beatAt(place, place.at + question.at))}: the tune is on{" "}
            {sign(pitchName(question.melody))}. One of the two notes {work.side === "below" ? "under" : "over"} it fits.
          </Text>
          {(["third", "fourth"] as const).map((which) => (
            <Flex key={which} gap="8px" align="center" borderTop="1px solid" borderColor="cord" py="8px">
              <Button size="sm" variant="outline" borderColor="quiet" color="ink" onClick={() => hear(which)}>
                hear the {which}
              </Button>
              <Button
                size="sm"
                ml="auto"
                bg={chosen === which ? "block" : "transparent"}
                color={chosen === which ? "onBlock" : "ink"}
                variant="outline"
                borderColor="ink"
                disabled={chosen !== null && chosen !== which}
                aria-pressed={chosen === which}
                onClick={() => choose(which, question)}
              >
                the {which} fits
              </Button>
            </Flex>
          ))}
          {chosen && (
            <Block title={chosen === question.fits ? "Yes" : `The ${question.fits} fits`}>
              <Text role="status">{question.why}</Text>
              <Button
                mt="8px"
                size="sm"
                bg="block"
                color="onBlock"
                onClick={() => {
                  setOrder(order + 1);
                  setChosen(null);
                }}
              >
                next place
              </Button>
            </Block>
          )}
        </>
      ) : (
        <Text>In this tune third and fourth are never at odds over its chords, so there is nothing to choose.</Text>
      )}
      <Button variant="plain" px="0" mt="14px" color="woad" textDecoration="underline" onClick={onDone}>
        back to the schools
      </Button>
    </>
  );
}
