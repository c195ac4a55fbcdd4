import { Box } from "@chakra-ui/react";

const ROWS = ["first", "second", "third", "fourth"];

/** Staff lines where the music will stand, while the tune is fetched. */
export default function Loading() {
  return (
    <Box role="status" aria-label="The tune is on its way" px="20px" pt="150px">
      {ROWS.map((row) => (
        <Box
          key={row}
          h="33px"
          mb="96px"
          ml={{ base: 0, md: "132px" }}
          borderBottom="1px solid"
          borderColor="quiet"
          opacity={0.55}
          bgImage="repeating-linear-gradient(var(--chakra-colors-quiet) 0 1px, transparent 1px 8px)"
        />
      ))}
    </Box>
  );
}
