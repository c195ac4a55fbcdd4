"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { type Difference, differences } from "../../core/ensemble";
import { LineButton, SolidButton } from "../controls/buttons";
import { timeWords } from "../signs";
import { Notice } from "./Notice";
import { useBench } from "./state";

/** Most differences shown at a time. */
const SHOWN = 40;

/** Notes and chords with real accidental signs; anything else as it is. */
const words = ({ bar }: Difference, text: string): string =>
  bar === undefined ? text : text.replace(/([A-G])b/g, "$1♭").replaceAll("#", "♯");

/** A tune changed in two places: what differs, bar by bar, and what is taken. Nothing of either is lost. */
export function Apart() {
  const saving = useBench((s) => s.saving);
  const work = useBench((s) => s.work);
  const both = useBench((s) => s.both);
  const settle = useBench((s) => s.settle);
  const theirs = saving.kind === "apart" ? saving.theirs : null;
  const found = useMemo(() => (theirs ? differences(work, theirs.work) : []), [work, theirs]);
  if (!theirs) return null;
  return (
    <Notice label="Changed in two places">
      <Text fontFamily="heading" fontSize="20px" fontWeight="600">
        This tune was changed in two places
      </Text>
      <Text mb="2">
        Elsewhere it was saved {timeWords(theirs.saved)} ({theirs.step}). What you did here is not saved yet.
      </Text>
      <Box maxH="38vh" overflowY="auto">
        <Box
          as="table"
          w="100%"
          fontSize="14px"
          css={{ borderCollapse: "collapse", "& td, & th": { padding: "3px 8px 3px 0" } }}
        >
          <thead>
            <tr>
              {["", "here", "saved elsewhere"].map((head) => (
                <Box as="th" key={head} textAlign="left" fontWeight="500" color="quiet">
                  {head}
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.slice(0, SHOWN).map((d) => (
              <Box as="tr" key={`${d.place}${d.here}${d.there}`} borderTop="1px solid" borderColor="cord">
                <Box as="td" whiteSpace="nowrap" fontWeight="600">
                  {d.place}
                </Box>
                <td>{words(d, d.here)}</td>
                <td>{words(d, d.there)}</td>
              </Box>
            ))}
          </tbody>
        </Box>
        {found.length > SHOWN && <Text color="quiet">and {found.length - SHOWN} more</Text>}
      </Box>
      <Flex mt="3" gap="8px" wrap="wrap" align="center">
        {both && <SolidButton onClick={() => settle("both")}>Take both</SolidButton>}
        <LineButton onClick={() => settle("mine")}>Take what is here</LineButton>
        <LineButton onClick={() => settle("theirs")}>Take what was saved</LineButton>
        <Text fontSize="14px" color="quiet">
          {both
            ? "The two do not touch each other."
            : "Both changed the same place, so one is to be chosen; the other stays as a named version."}
        </Text>
      </Flex>
    </Notice>
  );
}
