"use client";
import { Box } from "@chakra-ui/react";

type BoxProps = { label: string; tone?: "madder"; children: React.ReactNode };

/** A box over the rows with something to decide. */
export const Notice = ({ label, tone, children }: BoxProps) => (
  <Box
    role="alert"
    aria-label={label}
    bg="linen"
    borderLeft="4px solid"
    borderColor={tone ?? "woad"}
    borderRadius="4px"
    px="14px"
    py="10px"
    my="10px"
  >
    {children}
  </Box>
);
