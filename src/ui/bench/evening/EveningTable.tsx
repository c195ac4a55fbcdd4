"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { type DragEvent, useState } from "react";
import { groupPartId, setThere, settleRole } from "../../../core/ensemble";
import type { GroupPart } from "../../../core/ensemble";
import { knows, PLAYED_ROLES, refusal, type RoleName } from "../../../core/grading";
import { LEVELS } from "../../../core/instruments";
import { barLabelAt, type Place } from "../../../core/score";
import { Picker } from "../../controls/Choice";
import { Play } from "../../icons";
import { RoleBadge, VOICES } from "../../roles";
import { listed } from "../../signs";
import { useBench } from "../state";
import { FitGrid } from "./FitGrid";
import { Mixer } from "./Mixer";
import { Roadmap } from "./Roadmap";
import { useEvening } from "./useEvening";

const GRID = "28px minmax(112px, 1.1fr) minmax(96px, 0.9fr) 92px 168px minmax(90px, 0.8fr) 66px";

/** Everyone who is there tonight, with their part: role, how hard it is, to look at, to hear, to give away. */
export function EveningTable() {
  const { busy, changed } = useEvening();
  const choice = useBench((s) => s.work.evening);
  const evening = useBench((s) => s.evening);
  const places = useBench((s) => s.derived.analysis.places);
  if (!choice) return null;
  const parts = new Map((evening?.parts ?? []).map((p) => [p.learner.name, p]));
  return (
    <Box as="section" aria-label="Tonight’s parts" aria-busy={busy} py="10px" data-evening>
      <Box
        display={{ base: "none", md: "grid" }}
        gridTemplateColumns={GRID}
        gap="8px"
        fontSize="13px"
        color="quiet"
        pb="2px"
      >
        {["", "Name", "Plays", "Level", "Part", "How hard", ""].map((title, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: columns in their order
          <Text key={i}>{title}</Text>
        ))}
      </Box>
      {choice.learners.map((learner) => (
        <LearnerLine
          key={learner.name}
          name={learner.name}
          instrument={learner.instrument}
          level={learner.level}
          there={!choice.absent.includes(learner.name)}
          part={parts.get(learner.name)}
          settled={choice.roles.some((r) => r.name === learner.name)}
        />
      ))}
      {changed.length > 0 && (
        <Text role="status" fontSize="14px" color="quiet" mt="6px">
          Changed with it: {listed(changed)}.
        </Text>
      )}
      {evening?.unmet.map((u) => (
        <Text key={u.must} role="alert" fontSize="14px" color="madder" mt="4px">
          Not met: {u.must}
          {u.bars.length > 0 && `, ${barsWords(places, u.bars)}`}. {u.wayOut}
        </Text>
      ))}
    </Box>
  );
}

/** Bars that are named one by one. */
const NAMED = 6;
const barsWords = (places: readonly Place[], bars: readonly number[]): string => {
  const labels = bars.slice(0, NAMED).map((b) => barLabelAt(places, b));
  const more = bars.length - labels.length;
  return `bar ${more > 0 ? `${labels.join(", ")} and ${more} more` : listed(labels)}`;
};

/** Under the music: who plays when, and how the parts sit together. */
export function EveningMore() {
  const evening = useBench((s) => s.evening);
  if (!evening) return null;
  return (
    <Box as="section" aria-label="Tonight as a whole" pb="20px">
      <Roadmap evening={evening} />
      <Mixer evening={evening} />
      <FitGrid evening={evening} />
    </Box>
  );
}

/** What a name carries while it is dragged onto another to change roles with. */
const DRAGGED = "text/plain";

type LineProps = {
  name: string;
  instrument: string;
  level: string;
  there: boolean;
  part: GroupPart | undefined;
  settled: boolean;
};

function LearnerLine({ name, instrument, level, there, part, settled }: LineProps) {
  const change = useBench((s) => s.change);
  const shown = useBench((s) => (part ? s.shown === groupPartId(part.id) : false));
  const setShown = useBench((s) => s.setShown);
  const bar = useBench((s) => s.bar);
  const hear = useBench((s) => s.hear);
  const evening = useBench((s) => s.evening);
  const [over, setOver] = useState(false);
  const ground = over ? "linen" : undefined;
  const swap = (other: string) => {
    const theirs = evening?.parts.find((p) => p.learner.name === other);
    if (!part || !theirs || other === name) return;
    change(`${name} and ${other} change parts`, (w) => settleRole(settleRole(w, name, theirs.role), other, part.role));
  };
  const drop = {
    draggable: part !== undefined,
    onDragStart: (e: DragEvent) => e.dataTransfer.setData(DRAGGED, name),
    onDragOver: (e: DragEvent) => {
      e.preventDefault();
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop: (e: DragEvent) => {
      e.preventDefault();
      setOver(false);
      swap(e.dataTransfer.getData(DRAGGED));
    },
  };
  return (
    <Box
      display="grid"
      gridTemplateColumns={{ base: "28px 1fr 150px 66px", md: GRID }}
      gap="2px 8px"
      alignItems="center"
      borderTop="1px solid"
      borderColor="cord"
      minH="36px"
      bg={shown ? "wash" : ground}
      opacity={there ? 1 : 0.6}
      data-learner={name}
      title={part?.reason}
      {...drop}
    >
      <input
        type="checkbox"
        aria-label={`${name} is there`}
        checked={there}
        style={{ width: 18, height: 18, accentColor: "var(--chakra-colors-woad)" }}
        onChange={(e) =>
          change(e.target.checked ? `${name} is there` : `${name} is not there`, (w) =>
            setThere(w, name, e.target.checked),
          )
        }
      />
      <Box
        as="button"
        textAlign="left"
        fontFamily="heading"
        fontSize="16px"
        fontWeight="600"
        minH="32px"
        aria-pressed={shown}
        aria-disabled={!part}
        onClick={() => part && setShown(shown ? "all" : groupPartId(part.id))}
      >
        {name}
      </Box>
      <Text fontSize="14px" display={{ base: "none", md: "block" }}>
        {instrument}
      </Text>
      <Text fontSize="14px" color="quiet" display={{ base: "none", md: "block" }}>
        {level}
      </Text>
      <Flex align="center" gap="6px">
        {part && <RoleBadge voice={part.role} size={20} />}
        {part ? (
          <Picker
            label={`Part of ${name}`}
            of={[
              { value: "", words: settled ? "let the plan choose" : VOICES[part.role].name },
              ...rolesFor(part).map((r) => ({ value: r, words: VOICES[r].name })),
            ]}
            now={settled ? part.role : ""}
            onTake={(role) => {
              const found = PLAYED_ROLES.find((r) => r === role) ?? null;
              change(found ? `${name}: ${found}` : `${name}: as planned`, (w) => settleRole(w, name, found));
            }}
          />
        ) : (
          <Text fontSize="14px" color="quiet">
            {there ? "no part yet" : "not there"}
          </Text>
        )}
      </Flex>
      <Box display={{ base: "none", md: "block" }}>{part && <Hard part={part} />}</Box>
      <Flex gap="4px" justify="flex-end">
        {part && (
          <Box
            as="button"
            aria-label={`Hear ${name}`}
            title={`Hear ${name}`}
            w="32px"
            h="32px"
            display="flex"
            alignItems="center"
            justifyContent="center"
            color="ink"
            onClick={() => {
              setShown(groupPartId(part.id));
              hear(bar, bar + 3);
            }}
          >
            <Play size={16} />
          </Box>
        )}
      </Flex>
    </Box>
  );
}

/** Roles someone could have instead. */
const rolesFor = ({ on, learner, role }: GroupPart): RoleName[] =>
  PLAYED_ROLES.filter((r) => r === role || refusal(r, on, learner.level, (word) => knows(learner, word)) === "");

/** How hard a part is, as a bar and a number; what makes it so on a look. */
function Hard({ part }: { part: GroupPart }) {
  const { difficulty, features } = part.difficulty;
  const most = [...features].sort((a, b) => b.points - a.points).slice(0, 3);
  const words = `${Math.round(difficulty)} of 100: ${most.map((f) => `${f.name} ${Math.round(f.points)}`).join(", ")}`;
  const level = LEVELS.indexOf(part.learner.level) + 1;
  return (
    <Flex align="center" gap="6px" title={words}>
      <Box flex="1" h="8px" bg="linen" borderRadius="4px" overflow="hidden" aria-hidden>
        <Box h="8px" bg={difficulty > level * 20 + 5 ? "madder" : "woad"} w={`${Math.min(100, difficulty)}%`} />
      </Box>
      <Text fontSize="13px" w="22px" textAlign="right">
        {Math.round(difficulty)}
      </Text>
    </Flex>
  );
}
