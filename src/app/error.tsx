"use client";
import { Box, Heading, Text } from "@chakra-ui/react";
import { SolidButton } from "../ui/controls/buttons";

export default function ErrorPage({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Box maxW="560px" mx="auto" pt="20vh" px="6">
      <Heading fontSize="26px" mb="3">
        This page could not be shown
      </Heading>
      <Text color="quiet" mb="5">
        {error.message || "Something went wrong on the way."} What was saved is safe, and what was not is kept in this
        browser.
      </Text>
      <SolidButton onClick={reset}>Try again</SolidButton>
    </Box>
  );
}
