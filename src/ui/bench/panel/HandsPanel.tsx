"use client";
import { Box, Button, Flex, NativeSelect, Text } from "@chakra-ui/react";
import { inventory, type Sounding } from "../../../core/analysis";
import type { Derived } from "../../../core/ensemble";
import { INSTRUMENTS } from "../../../core/instruments";
import { beatTicks, lengthWords } from "../../../core/score";
import { moveBetween, SPELLINGS, stringMove, tonics, transpose } from "../../../core/spelling";
import { lieOn, secondFingerWords } from "../../../core/technique";
import { className, pitchName } from "../../../core/theory";
import type { BenchState } from "../useBench";
import type { NamingState } from "../useNaming";
import { Fingerboard } from "./Fingerboard";
import { Block, PanelHead } from "./parts";

type Props = { bench: BenchState; derived: Derived; naming: NamingState };

const sign = (name: string) => name.replace("b", "♭").replace("#", "♯");
const list = (pitches: readonly Sounding[]) => pitches.map((p) => sign(pitchName(p.pitch))).join(", ");

/** How the tune lies under the hand of one instrument, how its notes are named, and where else it could lie. */
export function HandsPanel({ bench, derived, naming }: Props) {
  const { places, key } = derived.analysis;
  const { on, spelling } = naming;
  const found = inventory(places);
  const lie = lieOn(on, places);
  const beat = beatTicks(bench.work.tune.metre);
  const second = secondFingerWords(lie);
  const longest = Math.max(...found.pitches.map((p) => p.ticks), 1);
  const move = (step: string, by: ReturnType<typeof moveBetween>) =>
    bench.change(step, (w) => ({ ...w, tune: transpose(w.tune, by), locks: [] }));
  const facts = [
    `${found.pitches.length} different notes, ${found.notes} in all${found.lowest && found.highest ? `, from ${sign(pitchName(found.lowest))} to ${sign(pitchName(found.highest))}` : ""}.`,
    on.hand === "violin" && second ? `${second[0]?.toUpperCase()}${second.slice(1)}.` : "",
    on.strings.length && lie.free.length && lie.free.length < on.strings.length
      ? `Free for a drone: ${lie.free.map((p) => sign(className(p))).join(", ")}.`
      : "",
    on.strings.length
      ? `${lie.crossings} string ${lie.crossings === 1 ? "crossing" : "crossings"}, ${found.leaps} ${found.leaps === 1 ? "leap" : "leaps"} of a fourth or more.`
      : `${found.leaps} ${found.leaps === 1 ? "leap" : "leaps"} of a fourth or more.`,
    found.held
      ? `${found.held} held ${found.held === 1 ? "note" : "notes"}, longer than a beat and a half.`
      : "No note is held longer than a beat and a half.",
    found.outside.length
      ? `Outside the key: ${found.outside.map((o) => `${sign(o.name)} ${o.count}×`).join(", ")}.`
      : "Every note is in the key.",
  ].filter(Boolean);
  const outOfReach = [...lie.tooLow, ...lie.tooHigh];
  const [up, down] = [stringMove(on, "up"), stringMove(on, "down")];
  return (
    <>
      <PanelHead title="Under the hand" />
      <Flex gap="8px" mb="10px">
        <NativeSelect.Root size="sm">
          <NativeSelect.Field
            aria-label="Instrument"
            bg="fleece"
            borderColor="cord"
            value={on.name}
            onChange={(e) => naming.setInstrument(e.target.value)}
          >
            {INSTRUMENTS.map((i) => (
              <option key={i.name} value={i.name}>
                {i.name}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
        <NativeSelect.Root size="sm">
          <NativeSelect.Field
            aria-label="Name the notes by"
            bg="fleece"
            borderColor="cord"
            value={spelling ?? ""}
            onChange={(e) => naming.setSpelling(SPELLINGS.find((s) => s === e.target.value) ?? null)}
          >
            <option value="">no names</option>
            {SPELLINGS.filter((s) => on.strings.length > 0 || (s !== "string and finger" && s !== "tablature"))
              .filter((s) =>
                s === "string and finger" ? on.hand !== "frets" : s === "tablature" ? on.hand === "frets" : true,
              )
              .map((s) => (
                <option key={s} value={s}>
                  {s}
                </option>
              ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
      </Flex>
      {on.strings.length > 0 ? (
        <Fingerboard on={on} lie={lie} />
      ) : (
        [...found.pitches].reverse().map((p) => (
          <Flex key={pitchName(p.pitch)} align="center" gap="8px" h="19px" fontSize="13px">
            <Text w="36px">{sign(pitchName(p.pitch))}</Text>
            <Box
              h="9px"
              borderRadius="2px"
              bg={outOfReach.some((o) => o.pitch === p.pitch) ? "madder" : "woad"}
              w={`${(p.ticks / longest) * 170}px`}
            />
            <Text color="quiet">{Math.round((p.ticks / beat) * 10) / 10} beats</Text>
          </Flex>
        ))
      )}
      {outOfReach.length > 0 && (
        <Text mt="8px" color="madder">
          Out of reach on the {on.name}: {list(outOfReach)}. Move the tune below.
        </Text>
      )}
      <Box mt="10px">
        {facts.map((f) => (
          <Text key={f} fontSize="14px" mb="3px">
            {f}
          </Text>
        ))}
      </Box>
      {found.cells.length > 0 && (
        <Block title="Rhythm of its beats">
          {found.cells.slice(0, 4).map((c) => (
            <Flex
              key={c.lengths.join()}
              align="center"
              gap="8px"
              h="20px"
              fontSize="13px"
              title={c.lengths.map((l) => lengthWords(Math.round(l * beat))).join(", ")}
            >
              <Flex w="110px" h="10px" gap="1px" flexShrink={0} overflow="hidden">
                {c.lengths.map((l, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: lengths of one beat, in order
                  <Box key={i} bg="walnut" h="10px" borderRadius="1px" style={{ flex: `${l} 1 0` }} />
                ))}
              </Flex>
              <Text color="quiet">
                {c.count} {c.count === 1 ? "beat" : "beats"}
              </Text>
            </Flex>
          ))}
        </Block>
      )}
      <Block title="Move the tune">
        <Flex gap="6px" wrap="wrap" align="center">
          <NativeSelect.Root size="sm" w="128px">
            <NativeSelect.Field
              aria-label="To the key of"
              bg="fleece"
              borderColor="cord"
              value={key.key.tonic}
              onChange={(e) =>
                move(`Moved to ${e.target.value} ${key.key.mode}`, moveBetween(key.key.tonic, e.target.value))
              }
            >
              {[...new Set([key.key.tonic, ...tonics(key.key.tonic)])].map((t) => (
                <option key={t} value={t}>
                  {t === key.key.tonic ? `in ${sign(t)}, as it is` : `to ${sign(t)}`}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
          {down && (
            <Button
              size="sm"
              variant="outline"
              borderColor="cord"
              color="ink"
              onClick={() => move("Fingering moved a string down", down)}
            >
              a string lower
            </Button>
          )}
          {up && (
            <Button
              size="sm"
              variant="outline"
              borderColor="cord"
              color="ink"
              onClick={() => move("Fingering moved a string up", up)}
            >
              a string higher
            </Button>
          )}
        </Flex>
        <Text fontSize="13px" color="quiet" mt="4px">
          Notes and printed chords move together; chords you locked are planned anew.
        </Text>
      </Block>
    </>
  );
}
