"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useState } from "react";
import {
  chooseGroup,
  GROUP,
  groupPartId,
  isGroup,
  notePlayed,
  setTonightsTempo,
  tonightsTempo,
  whenWords,
} from "../../../core/ensemble";
import { type Group, ROLE_RULES } from "../../../core/grading";
import { listGroups, listRolesBefore } from "../../../server/actions";
import { LineButton } from "../../controls/buttons";
import { Picker } from "../../controls/Choice";
import { useDeed } from "../../useDeed";
import { useBench } from "../state";
import { BarBox } from "./BarBox";
import { Copies } from "./Copies";
import { Block, PanelHead } from "./parts";
import { DifficultyChart } from "./DifficultyChart";
import { EasierTunes } from "./EasierTunes";
import { NotesNamed } from "./NotesNamed";
import { Writings } from "./Writings";

const NOBODY = "";

/** Which group plays tonight, how quick, and the part that is looked at. */
export function GroupPicker() {
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const change = useBench((s) => s.change);
  const setShown = useBench((s) => s.setShown);
  const shown = useBench((s) => s.shown);
  const id = useBench((s) => s.id);
  const [groups, setGroups] = useState<Group[]>([]);
  const { run, failure } = useDeed();
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for once, when the panel is shown
  useEffect(() => void run(listGroups, setGroups), []);
  const { evening } = work;
  const choose = (name: string) => {
    const group = groups.find((g) => g.name === name) ?? null;
    if (!group) {
      setShown("all");
      change("Nobody tonight", (w) => chooseGroup(w, null));
      return;
    }
    void run(
      () => listRolesBefore({ group: group.name, except: id }),
      (before) => change(`Tonight: ${group.name}`, (w) => chooseGroup(w, group, before)),
    );
  };
  const open = work.tune.rights !== "unknown";
  return (
    <Box mb="14px">
      <PanelHead title="Tonight" />
      {failure}
      <Picker
        label="The group"
        of={[{ value: NOBODY, words: "choose a group" }, ...groups.map((g) => g.name)]}
        now={evening?.group ?? NOBODY}
        onTake={choose}
      />
      {!evening && (
        <Text fontSize="14px" mt="6px">
          A part for everyone in the room, each within what they can play. <Link href="/groups">Who is in a group</Link>
        </Text>
      )}
      {evening && (
        <>
          <Tempo
            bpm={Math.round(tonightsTempo(work, derived))}
            onTake={(bpm) => change(`Tonight at ${bpm}`, (w) => setTonightsTempo(w, bpm))}
          />
          <Flex gap="6px" mt="8px" wrap="wrap">
            <LineButton
              size="xs"
              aria-pressed={shown === GROUP}
              onClick={() => setShown(shown === GROUP ? "all" : GROUP)}
            >
              {shown === GROUP ? "the whole score" : "show the whole score"}
            </LineButton>
            <NotePlayed />
          </Flex>
          <Copies part={GROUP} open={open} name="everyone’s parts" />
          <EasierTunes />
          <Shown open={open} />
        </>
      )}
    </Box>
  );
}

/** Notes what everyone played, so that the next tunes give them something else. */
function NotePlayed() {
  const evening = useBench((s) => s.evening);
  const noted = useBench((s) => s.work.evening?.played !== undefined);
  const change = useBench((s) => s.change);
  if (!evening) return null;
  return (
    <LineButton
      size="xs"
      aria-pressed={noted}
      title="Nobody gets the same role three tunes running"
      onClick={() => change("Noted what was played", (w) => notePlayed(w, evening))}
    >
      {noted ? "noted as played" : "note it as played"}
    </LineButton>
  );
}

function Tempo({ bpm, onTake }: { bpm: number; onTake: (bpm: number) => void }) {
  return (
    <Flex align="center" gap="8px" mt="8px" fontSize="14px">
      <label htmlFor="tonights-tempo">Quickest tonight</label>
      <Input
        key={bpm}
        id="tonights-tempo"
        size="sm"
        w="72px"
        bg="fleece"
        borderColor="cord"
        type="number"
        min={20}
        max={300}
        defaultValue={bpm}
        onBlur={(e) => {
          const next = Number(e.target.value);
          if (next >= 20 && next <= 300 && next !== bpm) onTake(next);
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
        }}
      />
      <Text color="quiet">beats a minute</Text>
    </Flex>
  );
}

/** The part that is looked at: why, what is left out, what to say, and copies of it. */
function Shown({ open }: { open: boolean }) {
  const shown = useBench((s) => s.shown);
  const part = useBench((s) => s.evening?.parts.find((p) => groupPartId(p.id) === shown));
  const hear = useBench((s) => s.hear);
  const bar = useBench((s) => s.bar);
  const last = useBench((s) => s.derived.analysis.places.length - 1);
  const roadmap = useBench((s) => s.evening?.roadmap);
  if (!part || !isGroup(shown)) return null;
  return (
    <Block title={`${part.learner.name}, ${part.on.name}`}>
      <Text fontSize="14px">{part.reason}</Text>
      {roadmap && (
        <Text fontSize="14px" mt="3px">
          {whenWords(roadmap, part.id)}
        </Text>
      )}
      {part.kept !== null && part.role !== "melody" && (
        <Text fontSize="14px">{Math.round(part.kept * 100)} % of the line’s beats are there.</Text>
      )}
      {part.leftOut.map((l) => (
        <Text key={l} fontSize="13px" color="quiet" mt="2px">
          Left out: {l}
        </Text>
      ))}
      {part.coaching.map((c) => (
        <Text key={c} fontSize="14px" mt="3px">
          {c}
        </Text>
      ))}
      <Flex gap="8px" mt="8px" wrap="wrap">
        <LineButton onClick={() => hear(bar, last)}>hear it</LineButton>
        <LineButton onClick={() => hear(bar, last, { without: shown })}>play along: everyone else</LineButton>
      </Flex>
      <Writings part={part} />
      {ROLE_RULES[part.role].kind !== "chords" && part.on.family !== "drum" && <NotesNamed part={part} />}
      <BarBox part={part} />
      <DifficultyChart part={part} />
      <Text fontSize="13px" color="quiet" mt="6px">
        {part.on.cautions[0]}
      </Text>
      <Copies part={shown} open={open} name={part.learner.name} />
    </Block>
  );
}
