import { Box, Flex, Heading, Table, Text } from "@chakra-ui/react";
import { type Instrument, isPitched, LEVELS, rangeOf, reachOf, spansOf } from "../../core/instruments";
import { pitchName, spell } from "../../core/theory";
import { signed } from "../signs";
import { FAMILY_WORDS, pageWords, SOUNDS } from "./families";
import { Neck } from "./Neck";

const PLAIN = { tonic: "C", mode: "major" } as const;
const noteWords = (note: number) => signed(pitchName(spell(note, PLAIN)));

/** Everything the catalogue says of one instrument. */
export function InstrumentView({ on }: { on: Instrument }) {
  const sound = SOUNDS.find((s) => s.value === String(on.program))?.words;
  const facts = [
    FAMILY_WORDS[on.family],
    isPitched(on) ? pageWords(on) : "heavy and light strokes, no pitches",
    on.scale ? `strings of ${on.scale} cm` : "",
    sound && sound !== on.name ? `heard as ${sound}` : "",
  ];
  return (
    <>
      <Heading as="h2" fontSize="24px" fontWeight="600">
        {on.name}
      </Heading>
      <Text color="quiet" mb="14px">
        {facts.filter(Boolean).join(" · ")}
      </Text>
      {on.strings.length > 0 && <Neck on={on} />}
      {on.tunings.length > 0 && <Tunings on={on} />}
      {isPitched(on) && <Levels on={on} />}
      <Facts title="Fingers" lines={[on.fingers]} />
      <Facts title="Take care" lines={on.cautions} />
      <Facts title="These numbers" lines={[on.source]} />
    </>
  );
}

function Tunings({ on }: { on: Instrument }) {
  return (
    <Box mt="10px" mb="14px">
      {on.tunings.map(({ name, strings }, i) => (
        <Flex key={name} gap="16px" py="4px" borderTop="1px solid" borderColor="cord" align="baseline">
          <Text w="150px" fontWeight={i === 0 ? "600" : "400"}>
            {signed(name)}
          </Text>
          <Text>
            {strings
              .map((s) => `${signed(pitchName(s.open))}${s.shortFrom ? ` from fret ${s.shortFrom}` : ""}`)
              .join("  ")}
          </Text>
          {i === 0 && on.tunings.length > 1 && (
            <Text color="quiet" fontSize="13px">
              the usual one
            </Text>
          )}
        </Flex>
      ))}
    </Box>
  );
}

/** What each level has of it: strings and frets, notes, how wide the hand opens, how quick. */
function Levels({ on }: { on: Instrument }) {
  const strung = on.strings.length > 0;
  const fret = on.frets ? "frets" : "semitones";
  return (
    <Table.Root
      size="sm"
      mb="14px"
      fontSize="14px"
      css={{ "& tr, & td, & th": { borderColor: "cord", bg: "transparent" } }}
    >
      <Table.Header>
        <Table.Row>
          {["Level", "Notes", ...(strung ? [`Strings, ${fret}`, "Hand spans"] : []), "Notes a second"].map((title) => (
            <Table.ColumnHeader key={title} color="quiet" fontWeight="500">
              {title}
            </Table.ColumnHeader>
          ))}
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {LEVELS.map((level, i) => {
          const { lowest, highest } = rangeOf(on, level);
          const reach = reachOf(on, level);
          return (
            <Table.Row key={level}>
              <Table.Cell>
                {i + 1} {level}
              </Table.Cell>
              <Table.Cell>
                {noteWords(lowest)} to {noteWords(highest)}
              </Table.Cell>
              {strung && (
                <>
                  <Table.Cell>
                    {reach.strings ? reach.strings.join(" ") : "all"}, to {reach.highest}
                  </Table.Cell>
                  <Table.Cell>
                    {spansOf(on, level)
                      .map((s) => s.span)
                      .join(" / ")}
                  </Table.Cell>
                </>
              )}
              <Table.Cell>{on.speed[i]}</Table.Cell>
            </Table.Row>
          );
        })}
      </Table.Body>
    </Table.Root>
  );
}

function Facts({ title, lines }: { title: string; lines: readonly string[] }) {
  const said = lines.filter(Boolean);
  if (said.length === 0) return null;
  return (
    <Flex gap="16px" py="6px" borderTop="1px solid" borderColor="cord">
      <Text w="150px" flexShrink={0} color="quiet">
        {title}
      </Text>
      <Box>
        {said.map((line) => (
          <Text key={line}>{line}</Text>
        ))}
      </Box>
    </Flex>
  );
}
