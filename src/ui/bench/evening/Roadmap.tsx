import { Box, Text } from "@chakra-ui/react";
import type { Evening } from "../../../core/ensemble";
import { RoleBadge, VOICES } from "../../roles";

const minutes = (seconds: number) => `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, "0")}`;

/** Who plays when: a column for each time through a strain, a row for each role, woven where it plays. */
export function Roadmap({ evening }: { evening: Evening }) {
  const { roadmap, parts, seconds } = evening;
  const roles = [...new Set(parts.map((p) => p.role))];
  const ids = (role: string) => parts.filter((p) => p.role === role).map((p) => p.id);
  return (
    <Box mt="16px">
      <Text fontSize="13px" color="quiet" mb="4px">
        Three times through, {minutes(seconds)} minutes
      </Text>
      <Box overflowX="auto">
        <Box
          as="table"
          fontSize="13px"
          css={{ borderCollapse: "collapse", "& td, & th": { padding: "2px 4px", textAlign: "center" } }}
        >
          <thead>
            <tr>
              <th />
              {roadmap.map(({ strain, pass }) => (
                <Box as="th" key={`${strain}${pass}`} fontWeight="500" color="quiet" minW="44px">
                  {strain} {pass}
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {roles.map((role) => (
              <tr key={role}>
                <Box as="th" fontWeight="400" whiteSpace="nowrap" css={{ textAlign: "left !important" }}>
                  <RoleBadge voice={role} size={16} /> {VOICES[role].name}
                </Box>
                {roadmap.map(({ strain, pass, plays }) => {
                  const own = ids(role);
                  const count = own.filter((id) => plays.includes(id)).length;
                  const some = count < own.length ? `${count} of ${own.length}` : "plays";
                  const words = count === 0 ? "rests" : some;
                  return (
                    <td key={`${strain}${pass}`}>
                      <Box
                        h="14px"
                        w="40px"
                        mx="auto"
                        borderRadius="2px"
                        bg={count > 0 ? `${VOICES[role].color}Cloth` : "transparent"}
                        border="1px solid"
                        borderColor={count > 0 ? "transparent" : "cord"}
                        opacity={count > 0 && count < own.length ? 0.6 : 1}
                        role="img"
                        aria-label={`${VOICES[role].name} in ${strain}, time ${pass}: ${words}`}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
