"use client";
import { Box, CloseButton, Dialog, Flex, Grid, Portal, Text } from "@chakra-ui/react";
import { LENGTHS } from "../typing/LengthSheet";
import { keyCap, NOTE_EDITS } from "./noteEdits";
import { Key } from "./panel/parts";
import { useBench } from "./state";

const SHEET: [string, [string[], string][]][] = [
  [
    "Hear",
    [
      [["Space"], "play, stop"],
      [["←", "→"], "bar before, bar after; from note to note once one is chosen"],
      [["Shift", "→"], "make the loop longer"],
      [["Shift", "←"], "make it shorter"],
      [["Esc"], "clear the choice and the loop"],
      [["−", "+"], "slower, faster"],
      [["M", "K", "C", "N"], "melody, harmony, chords, long notes on or off"],
      [["H"], "hear the chosen bar"],
      [["X"], "tap along, in Pulse"],
    ],
  ],
  [
    "Decide",
    [
      [["Enter"], "look at the chord of this bar, or its harmony note"],
      [["1", "2", "3", "4"], "take and hear this chord, or another"],
      [["0"], "take it without what was added"],
      [["W"], "write another chord"],
      [["L"], "lock; unlock and keep"],
      [["A"], "let go of what you chose"],
      [["B"], "do the same in like bars, when asked"],
      [["⇧L"], "lock or free the phrase"],
      [["S", "J"], "split a chord, join with its neighbour; of a bow, let go its last note, take in the next"],
      [["[", "]"], "its change a beat earlier, later"],
      [["↑", "↓"], "the chosen harmony note to its next candidate"],
      [["⇧D"], "copy the phrase’s chords to like phrases"],
      [["Ctrl", "Z"], "undo"],
      [["Ctrl", "Shift", "Z"], "redo"],
    ],
  ],
  [
    "Look",
    [
      [["T"], "the tune"],
      [["Z"], "pulse: its rhythms"],
      [["G"], "chords"],
      [["Y"], "harmony"],
      [["D"], "feel, as it is danced"],
      [["P"], "parts"],
      [["?"], "this sheet"],
    ],
  ],
];

/** Keys that correct the chosen note, from the same table as the panel's buttons. */
const NOTE_KEYS: [string[], string][] = NOTE_EDITS.flatMap((g) => g.edits).map((e) => [
  [keyCap(e.keys)],
  e.name[0]?.toLowerCase() + e.name.slice(1),
]);

/** All keys, and the cautions for playing. */
export function HelpSheet() {
  const open = useBench((s) => s.help);
  const setHelp = useBench((s) => s.setHelp);
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(e) => {
        if (!e.open) setHelp(false);
      }}
      size="lg"
      placement="center"
    >
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="fleece" color="ink" maxW="820px">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading" fontSize="22px">
                Keys
              </Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              <Grid templateColumns={{ base: "1fr", md: "1.25fr 1fr 0.7fr" }} gap="28px">
                {SHEET.map(([head, keys]) => (
                  <Box key={head}>
                    <Text fontWeight="700" mb="2">
                      {head}
                    </Text>
                    {keys.map(([names, words]) => (
                      <Grid key={words} templateColumns="auto 1fr" gap="10px" alignItems="baseline" mb="8px">
                        <Box whiteSpace="nowrap">
                          {names.map((n) => (
                            <Key key={n}>{n}</Key>
                          ))}
                        </Box>
                        <Text fontSize="14px" lineHeight="19px">
                          {words}
                        </Text>
                      </Grid>
                    ))}
                  </Box>
                ))}
              </Grid>
              <details>
                <summary style={{ fontWeight: 700, marginTop: 8 }}>Correct the chosen note (in Tune)</summary>
                <Grid templateColumns={{ base: "1fr", md: "1fr 1fr 1fr" }} gap="4px 28px" mt="2">
                  {NOTE_KEYS.map(([names, words]) => (
                    <Flex key={words} gap="10px" align="baseline" fontSize="14px">
                      <Box w="64px" flexShrink={0}>
                        {names.map((n) => (
                          <Key key={n}>{n}</Key>
                        ))}
                      </Box>
                      {words}
                    </Flex>
                  ))}
                </Grid>
              </details>
              <details>
                <summary style={{ fontWeight: 700, marginTop: 8 }}>Signs for typed notes</summary>
                <Box mt="2">
                  {LENGTHS.map(([sign, words]) => (
                    <Flex key={sign} gap="10px" fontSize="14px" py="2px">
                      <Text w="96px" flexShrink={0} fontFamily="ui-monospace, monospace" fontWeight="600">
                        {sign}
                      </Text>
                      <Text>{words}</Text>
                    </Flex>
                  ))}
                </Box>
              </details>
              <Box mt="5" pt="4" borderTop="1px solid" borderColor="cord" fontSize="14px" color="quiet">
                <Text mb="2">
                  Click a chord, or a note of the second staff, to see why it is there. Drag over the weave to loop
                  bars.
                </Text>
                <Text mb="2">
                  Raise the tempo in small steps and take breaks. Stop at pain, numbness or tingling, and see a teacher
                  or a health professional if it lasts.
                </Text>
                <Text>
                  Many instruments in a small room are loud: keep distance, play some of it quietly, and follow the
                  rules of the place you teach in.
                </Text>
              </Box>
            </Dialog.Body>
            <Dialog.CloseTrigger asChild>
              <CloseButton size="sm" color="ink" />
            </Dialog.CloseTrigger>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
