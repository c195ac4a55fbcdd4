"use client";
import { Box, Button, Flex, NativeSelect, RadioGroup, Text } from "@chakra-ui/react";
import { type Derived, schoolBars } from "../../../core/ensemble";
import { SCHOOLS } from "../../../core/harmony";
import type { Selection } from "../lenses";
import type { BenchState } from "../useBench";
import type { SecondState } from "../useSecond";
import { Block, ChoiceRow, PanelHead } from "./parts";

/** Clash from which a bar is worth a look. */
const RUB = 20;

type Props = {
  bench: BenchState;
  derived: Derived;
  second: SecondState;
  practising: boolean;
  onPractise: () => void;
  bar: number;
  loop: { from: number; to: number } | null;
  onSelect: (next: Selection) => void;
};

/** The school and the side, other schools bar by bar, and how the two lines get on. */
export function HarmonyPanel({ bench, derived, second, practising, onPractise, bar, loop, onSelect }: Props) {
  const { line, analysis } = derived;
  const { work } = bench;
  const worst = line.clashes
    .map((clash, bar) => ({ clash, bar }))
    .filter((c) => c.clash >= RUB)
    .sort((a, b) => b.clash - a.clash)
    .slice(0, 3);
  const [from, to] = [loop?.from ?? bar, loop?.to ?? bar];
  const number = (index: number) => analysis.places[index]?.number ?? 0;
  const stretch =
    from === to ? (number(from) === 0 ? "the pickup" : `bar ${number(from)}`) : `bars ${number(from)} to ${number(to)}`;
  const here = work.barSchools.find((b) => b.bar === from)?.school ?? work.school;
  const locked = work.harmonyLocks.length;
  return (
    <>
      <PanelHead
        title={`${line.side === "below" ? "Low" : "High"} harmony`}
        sub={`for ${line.instrument} · clash ${line.clash.toFixed(1)} of 100${locked ? ` · ${locked} yours` : ""}`}
      />
      <Flex gap="6px" role="group" aria-label="Side" mb="6px">
        {(["below", "above"] as const).map((side) => (
          <Button
            key={side}
            size="sm"
            flex="1"
            variant="outline"
            borderColor={line.side === side ? "ink" : "cord"}
            bg={line.side === side ? "block" : "transparent"}
            color={line.side === side ? "onBlock" : "ink"}
            aria-pressed={line.side === side}
            onClick={() => bench.change(side === "below" ? "Harmony below" : "Harmony above", (w) => ({ ...w, side }))}
          >
            {side === "below" ? "below the tune" : "above the tune"}
          </Button>
        ))}
      </Flex>
      <RadioGroup.Root
        value={line.school}
        onValueChange={({ value }) => value && bench.change(`Harmony by ${value}`, (w) => ({ ...w, school: value }))}
        aria-label="School"
      >
        {SCHOOLS.map((school) => (
          <RadioGroup.Item
            key={school.name}
            value={school.name}
            py="4px"
            borderTop="1px solid"
            borderColor="cord"
            w="100%"
            alignItems="flex-start"
            cursor="pointer"
            title={school.rule}
          >
            <RadioGroup.ItemHiddenInput />
            <RadioGroup.ItemIndicator
              mt="3px"
              borderColor="quiet"
              _checked={{ bg: "heather", borderColor: "heather", color: "fleece" }}
            />
            <RadioGroup.ItemText>
              <Text
                as="span"
                fontWeight={line.school === school.name ? "700" : "500"}
                display="block"
                lineHeight="20px"
              >
                {school.name}
              </Text>
              {line.school === school.name && (
                <Text as="span" fontSize="13px" color="quiet" lineHeight="17px" display="block">
                  {school.rule}
                </Text>
              )}
            </RadioGroup.ItemText>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <Flex gap="6px" mt="8px">
        <Toggle on={second.numbers} onTake={() => second.setNumbers(!second.numbers)}>
          interval numbers
        </Toggle>
        <Toggle on={second.ghost} onTake={() => second.setGhost(!second.ghost)}>
          where the third would be
        </Toggle>
      </Flex>
      <Block title="A second line">
        <NativeSelect.Root size="sm">
          <NativeSelect.Field
            aria-label="Second line"
            bg="fleece"
            borderColor="cord"
            value={work.second ? `${work.second.side} ${work.second.school}` : ""}
            onChange={(e) => {
              const [, side, school] = /^(below|above) (.*)$/.exec(e.target.value) ?? [];
              bench.change(school ? `Second line by ${school}` : "Second line taken away", (w) => ({
                ...w,
                second: school ? { side: side as "below" | "above", school } : null,
              }));
            }}
          >
            <option value="">none</option>
            {(["above", "below"] as const).flatMap((side) =>
              SCHOOLS.filter((s) => s.name !== work.school || side !== work.side).map((s) => (
                <option key={side + s.name} value={`${side} ${s.name}`}>
                  {s.name}, {side}
                </option>
              )),
            )}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
      </Block>
      <Together derived={derived} number={number} />
      <Block title={`Another school for ${stretch}`}>
        <NativeSelect.Root size="sm">
          <NativeSelect.Field
            aria-label={`School for ${stretch}`}
            bg="fleece"
            borderColor="cord"
            value={here}
            onChange={(e) =>
              bench.change(`${e.target.value} in ${stretch}`, (w) => schoolBars(w, from, to, e.target.value))
            }
          >
            {SCHOOLS.map((s) => (
              <option key={s.name} value={s.name}>
                {s.name}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
      </Block>
      <Block title="Beside another school">
        <NativeSelect.Root size="sm">
          <NativeSelect.Field
            aria-label="Compare with school"
            bg="fleece"
            borderColor="cord"
            value={second.school}
            onChange={(e) => second.setSchool(e.target.value)}
          >
            <option value="">nothing</option>
            {SCHOOLS.filter((s) => s.name !== work.school).map((s) => (
              <option key={s.name} value={s.name}>
                {s.name}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
        {second.line && (
          <>
            <Text fontSize="14px" mt="6px">
              Clash {line.clash.toFixed(1)} here, {second.line.clash.toFixed(1)} there.
            </Text>
            <ClashPair ours={line.clashes} theirs={second.line.clashes} />
            <Flex gap="6px" mt="6px">
              <Button
                size="sm"
                variant="outline"
                borderColor="quiet"
                color="ink"
                onClick={() => second.hear(from, to, "ours")}
              >
                hear this
              </Button>
              <Button
                size="sm"
                variant="outline"
                borderColor="quiet"
                color="ink"
                onClick={() => second.hear(from, to, "theirs")}
              >
                hear the other
              </Button>
            </Flex>
            <BlindTest
              second={second}
              stretch={stretch}
              onKeep={(school) => bench.change(`${school} in ${stretch}`, (w) => schoolBars(w, from, to, school))}
              from={from}
              to={to}
              ours={work.school}
            />
          </>
        )}
      </Block>
      <Block title="Try it yourself">
        <Flex gap="6px" wrap="wrap">
          <Button size="sm" variant="outline" borderColor="quiet" color="ink" onClick={() => second.setTrying(true)}>
            third or fourth?
          </Button>
          <Button
            size="sm"
            variant="outline"
            borderColor="quiet"
            color="ink"
            aria-pressed={practising}
            title="The tune sounds, your line is only shown (K)"
            onClick={onPractise}
          >
            play it to the tune
          </Button>
        </Flex>
      </Block>
      {work.tune.rights !== "unknown" && (
        <Block title="Tune and lines together">
          <Flex gap="14px" fontSize="14px" color="woad">
            {(["musicxml", "abc", "mid"] as const).map((format) => (
              <a
                key={format}
                download
                href={`/tune/${bench.id}/files/melody+moving${work.second ? "+second" : ""}.${format}`}
                style={{ textDecoration: "underline" }}
              >
                {{ musicxml: "MusicXML", abc: "ABC", mid: "MIDI" }[format]}
              </a>
            ))}
          </Flex>
        </Block>
      )}
      {worst.length > 0 && (
        <Block title="Bars that rub most">
          {worst.map(({ clash, bar }) => (
            <ChoiceRow
              key={bar}
              name={`bar ${number(bar)}`}
              worth={clash / 100}
              note={String(clash)}
              onTake={() => {
                const index = line.notes.findIndex((n) => n.bar === bar && n.pitch);
                if (index >= 0) onSelect({ kind: "note", index });
              }}
            />
          ))}
        </Block>
      )}
    </>
  );
}

/** What the tune, the lines and a bass of roots do to each other. */
function Together({ derived, number }: { derived: Derived; number: (index: number) => number }) {
  const { faults } = derived;
  return (
    <Block title="All voices with a bass of roots">
      {faults.length === 0 ? (
        <Text fontSize="14px">Nothing rubs on a beat, and nothing runs in fifths or octaves.</Text>
      ) : (
        faults.slice(0, 5).map((f) => (
          <Text key={`${f.bar}${f.voices}${f.what}`} fontSize="14px" lineHeight="20px">
            Bar {number(f.bar)}: {f.what} between {f.voices[0]} and {f.voices[1]}
          </Text>
        ))
      )}
      {faults.length > 5 && (
        <Text fontSize="13px" color="quiet">
          and {faults.length - 5} more
        </Text>
      )}
    </Block>
  );
}

const Toggle = ({ on, onTake, children }: { on: boolean; onTake: () => void; children: string }) => (
  <Button
    size="xs"
    h="28px"
    flex="1"
    variant="outline"
    borderColor={on ? "ink" : "cord"}
    bg={on ? "block" : "transparent"}
    color={on ? "onBlock" : "ink"}
    fontWeight="500"
    aria-pressed={on}
    onClick={onTake}
  >
    {children}
  </Button>
);

/** Clash bar by bar under both schools: up for this one, down for the other. */
function ClashPair({ ours, theirs }: { ours: readonly number[]; theirs: readonly number[] }) {
  const width = 100 / Math.max(1, ours.length);
  return (
    <svg
      viewBox="0 0 100 44"
      width="100%"
      height="56"
      preserveAspectRatio="none"
      role="img"
      aria-label={`Clash by bar: ${ours.join(", ")} against ${theirs.join(", ")}`}
    >
      {ours.map((clash, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: bars have no other name
        <g key={i}>
          <rect
            x={i * width + 0.3}
            width={width - 0.6}
            y={21 - clash * 0.4}
            height={Math.max(0.6, clash * 0.4)}
            fill="var(--chakra-colors-heather)"
          />
          <rect
            x={i * width + 0.3}
            width={width - 0.6}
            y={23}
            height={Math.max(0.6, (theirs[i] ?? 0) * 0.4)}
            fill="var(--chakra-colors-woad)"
          />
        </g>
      ))}
    </svg>
  );
}

/** Two lines in an order nobody sees; the one kept goes into the bars listened to. */
function BlindTest({
  second,
  stretch,
  from,
  to,
  ours,
  onKeep,
}: {
  second: SecondState;
  stretch: string;
  from: number;
  to: number;
  ours: string;
  onKeep: (school: string) => void;
}) {
  const { blind } = second;
  if (!blind)
    return (
      <Button size="sm" mt="6px" variant="outline" borderColor="quiet" color="ink" onClick={second.startBlind}>
        choose blind for {stretch}
      </Button>
    );
  return (
    <Box mt="8px" bg="linen" borderRadius="6px" p="10px">
      <Text fontSize="14px" mb="6px">
        Listen to both, then keep one for {stretch}.
      </Text>
      <Flex gap="6px" wrap="wrap">
        {(["A", "B"] as const).map((name) => {
          const which = blind[name];
          return (
            <Flex key={name} gap="4px" align="center">
              <Button
                size="sm"
                variant="outline"
                borderColor="quiet"
                color="ink"
                onClick={() => second.hear(from, to, which)}
              >
                hear {name}
              </Button>
              <Button
                size="sm"
                bg="block"
                color="onBlock"
                onClick={() => {
                  onKeep(which === "ours" ? ours : second.school);
                  second.endBlind();
                }}
              >
                keep {name}
              </Button>
            </Flex>
          );
        })}
      </Flex>
    </Box>
  );
}
