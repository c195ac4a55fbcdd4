"use client";
import { Flex, Text } from "@chakra-ui/react";
import { barLabelAt } from "../../core/score";
import { LineButton, SolidButton } from "../controls/buttons";
import { listed } from "../signs";
import { Key } from "./panel/parts";
import { useBench } from "./state";

/** After a change in a bar that others are like: the same there too? */
export function OfferBar() {
  const offer = useBench((s) => s.offer);
  const places = useBench((s) => s.derived.analysis.places);
  const take = useBench((s) => s.takeOffer);
  const drop = useBench((s) => s.dropOffer);
  if (!offer) return null;
  const own = barLabelAt(places, offer.bar);
  const bars = offer.like.map((bar) => barLabelAt(places, bar));
  const one = bars.length === 1;
  return (
    <Flex
      role="status"
      flexShrink={0}
      minH="52px"
      align="center"
      gap="6px 12px"
      px="20px"
      wrap="wrap"
      bg="wash"
      borderTop="1px solid"
      borderColor="cord"
    >
      <Text>
        {one ? "Bar" : "Bars"} {listed(bars)} had the same notes as bar {own}. Do the same there?
      </Text>
      <SolidButton onClick={take}>
        {one ? "Both" : "All of them"} <Key>B</Key>
      </SolidButton>
      <LineButton onClick={drop}>Only bar {own}</LineButton>
    </Flex>
  );
}
