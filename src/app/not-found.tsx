import { Box, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";

export default function NotFound() {
  return (
    <Box maxW="560px" mx="auto" pt="20vh" px="6">
      <Heading fontSize="26px" mb="3">
        There is nothing at this address
      </Heading>
      <Text color="quiet" mb="5">
        A tune that was here may have been taken out of the collection.
      </Text>
      <Link href="/">Back to the tunes</Link>
    </Box>
  );
}
