"use client";
import { Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import { THIRDS, type ThirdOrFourth, thirdOrFourth } from "../../../core/harmony";
import { playedOn } from "../../../core/ensemble";
import { barLabel, momentWords, type Place } from "../../../core/score";
import { pitchName } from "../../../core/theory";
import { answerThirdOrFourth } from "../../../server/actions";
import { rivalLineOf } from "../../../workers/derive";
import { answered, wordsOf } from "../../answered";
import { LineButton, LinkButton, SolidButton } from "../../controls/buttons";
import { signed } from "../../signs";
import { useBench, useBenchStore } from "../state";
import { type Keys, useKeys } from "../useKeys";
import { Block, Key, PanelHead } from "./parts";

const CHOICES = ["third", "fourth"] as const;
type Choice = (typeof CHOICES)[number];

/** Answers on this tune so far, kept with it. */
function useTally(id: number) {
  const [tally, setTally] = useState({ asked: 0, right: 0 });
  const [problem, setProblem] = useState("");
  const ask = (given?: { bar: number; at: number; right: boolean }) =>
    answered(answerThirdOrFourth({ id, ...(given ? { given } : {}) })).then(setTally, (e: unknown) =>
      setProblem(wordsOf(e)),
    );
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked once for each tune
  useEffect(() => void ask(), [id]);
  return { tally, problem, keep: ask };
}

/**
 * Third or fourth? The bar is heard with each; choose the one that fits, then see why. Results are kept with the
 * tune.
 */
export function ThirdOrFourthPanel() {
  const bench = useBenchStore();
  const id = useBench((s) => s.id);
  const line = useBench((s) => s.derived.lines[0]);
  const plan = useBench((s) => s.derived.plan);
  const places = useBench((s) => s.derived.analysis.places);
  const hear = useBench((s) => s.hear);
  const setBar = useBench((s) => s.setBar);
  const setTrying = useBench((s) => s.setTrying);
  const { tally, problem, keep } = useTally(id);
  const [order, setOrder] = useState(0);
  const [chosen, setChosen] = useState<Choice | null>(null);
  const side = line?.side ?? "below";
  const on = useBench((s) => playedOn(s.work, line?.instrument));
  const questions = useMemo(() => thirdOrFourth(places, plan, side, on), [places, plan, side, on]);
  const question = questions[order % Math.max(1, questions.length)];
  const place = question && (places[question.bar] as Place);

  const sound = (asked: ThirdOrFourth, which: Choice) => {
    setBar(asked.bar);
    const locks = [{ bar: asked.bar, at: asked.at, pitch: asked[which] }];
    if (!line) return;
    rivalLineOf(bench.getState().work, line.id, THIRDS.name, locks).then(
      (bent) => hear(asked.bar, asked.bar, { line: bent }),
      () => hear(asked.bar, asked.bar),
    );
  };
  const choose = (asked: ThirdOrFourth, which: Choice) => {
    if (chosen) return;
    setChosen(which);
    void keep({ bar: asked.bar, at: asked.at, right: which === asked.fits });
  };
  const next = () => {
    setOrder(order + 1);
    setChosen(null);
  };
  useKeys((name) => {
    if (!question) return undefined;
    const keys: Keys = {
      "1": () => sound(question, "third"),
      "2": () => sound(question, "fourth"),
      "3": () => choose(question, "third"),
      "4": () => choose(question, "fourth"),
      ...(chosen ? { Enter: next } : {}),
    };
    return Object.hasOwn(keys, name) ? keys[name] : undefined;
  });
  return (
    <>
      <PanelHead
        title="Third or fourth?"
        sub={tally.asked ? `${tally.right} of ${tally.asked} right on this tune` : "hear both, then choose"}
      />
      {problem && <Text color="madder">{problem}</Text>}
      {question && place ? (
        <>
          <Text mb="10px">
            Bar {barLabel(place)}, {momentWords(place, place.at + question.at)}: the tune is on{" "}
            {signed(pitchName(question.melody).slice(0, -1))}. One of the two notes{" "}
            {side === "below" ? "under" : "over"} it fits.
          </Text>
          {CHOICES.map((which, i) => (
            <Flex key={which} gap="8px" align="center" borderTop="1px solid" borderColor="cord" py="8px">
              <LineButton onClick={() => sound(question, which)}>
                <Key>{String(i + 1)}</Key> hear the {which}
              </LineButton>
              <LineButton
                ml="auto"
                disabled={chosen !== null && chosen !== which}
                aria-pressed={chosen === which}
                aria-label={`the ${which} fits`}
                onClick={() => choose(question, which)}
              >
                <Key>{String(i + 3)}</Key> it fits
              </LineButton>
            </Flex>
          ))}
          {chosen && (
            <Block title={chosen === question.fits ? "Yes" : `The ${question.fits} fits`}>
              <Text role="status">{question.why}</Text>
              <SolidButton mt="8px" onClick={next}>
                next place
              </SolidButton>
            </Block>
          )}
        </>
      ) : (
        <Text>In this tune third and fourth are never at odds over its chords, so there is nothing to choose.</Text>
      )}
      <LinkButton mt="14px" onClick={() => setTrying(false)}>
        back to the schools
      </LinkButton>
    </>
  );
}
