"use client";
import { Box, Button, Heading, Text } from "@chakra-ui/react";

export default function ErrorPage({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Box maxW="560px" mx="auto" pt="20vh" px="6">
      <Heading fontSize="26px" mb="3">
        This page could not be shown
      </Heading>
      <Text color="quiet" mb="5">
        {error.message || "Something went wrong on the way."} Your work is saved as it was.
      </Text>
      <Button onClick={reset}>Try again</Button>
    </Box>
  );
}
