"use client";
import { Box, Flex, Heading, Input, Text } from "@chakra-ui/react";
import { parseAsString, useQueryState } from "nuqs";
import { useRef, useState } from "react";
import { type Group, type Learner, WORDS, writeRoster } from "../../core/grading";
import { catalogueWith, type Instrument } from "../../core/instruments";
import { bringGroup, takeGroupAway, writeGroup } from "../../server/actions";
import { LineButton, LinkButton, SolidButton } from "../controls/buttons";
import { PageHead } from "../controls/PageHead";
import { counted } from "../signs";
import { useDeed } from "../useDeed";
import { LearnerHead, LearnerRow } from "./LearnerRow";

type Fault = { line: number; column: string | null; words: string };

const fresh = (count: number): Learner => ({
  name: `Learner ${count + 1}`,
  instrument: "fiddle",
  tuning: null,
  level: "First sounds",
  can: [],
  cannot: [],
  seat: String(count + 1),
  notes: "",
});

/** The groups of a teacher: who is in them, on what, how far, what sets each apart; they come and go as tables. */
export function GroupsPage({ first, own }: { first: Group[]; own: Instrument[] }) {
  const [groups, setGroups] = useState(first);
  const [name, setName] = useQueryState("group", parseAsString);
  const [faults, setFaults] = useState<readonly Fault[]>([]);
  const [said, setSaid] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const { run, failure } = useDeed();
  const group = groups.find((g) => g.name === name) ?? groups[0];
  const keep = (next: Group, before: string | null) =>
    run(
      () => writeGroup({ group: next, before }),
      (all) => {
        setGroups(all);
        void setName(next.name);
      },
    );
  const bring = async (chosen: File) => {
    const table = await chosen.text();
    await run(
      () => bringGroup({ name: chosen.name.replace(/\.csv$/i, "").slice(0, 60) || "Group", table }),
      (came) => {
        const added = came.groups.find((g) => !groups.some((o) => o.name === g.name));
        setGroups(came.groups);
        setFaults(came.faults);
        setSaid(added ? `${counted(added.learners.length, "learner")} came in.` : "Nobody came in.");
        if (added) void setName(added.name);
      },
    );
  };
  const add = () => {
    const free = [1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => `Group ${n}`).find((n) => !groups.some((g) => g.name === n));
    void keep({ name: free ?? "New group", learners: [fresh(0)] }, null);
  };
  return (
    <Box minH="100%" bg="fleece">
      <PageHead title="Groups" sub="who is in the room, on what, and how far each one is">
        <input
          ref={file}
          type="file"
          accept=".csv,text/csv"
          hidden
          aria-label="A table of learners"
          onChange={(e) => {
            const [chosen] = e.target.files ?? [];
            if (chosen) void bring(chosen);
            e.target.value = "";
          }}
        />
        <LineButton onClick={() => file.current?.click()}>Bring a table in</LineButton>
        <SolidButton onClick={add}>New group</SolidButton>
      </PageHead>
      <Box as="main" maxW="1160px" mx="auto" px="24px" py="18px">
        {failure}
        <Text role="status" minH="20px" color="quiet">
          {said}
        </Text>
        {faults.map((f) => (
          <Text key={`${f.line} ${f.column} ${f.words}`} color="madder" fontSize="14px">
            Line {f.line}
            {f.column ? `, ${f.column}` : ""}: {f.words}
          </Text>
        ))}
        {groups.length > 1 && (
          <Flex gap="6px" mb="12px" wrap="wrap" role="group" aria-label="Groups">
            {groups.map((g) => (
              <LineButton key={g.name} aria-pressed={g === group} onClick={() => void setName(g.name)}>
                {g.name}
              </LineButton>
            ))}
          </Flex>
        )}
        {group ? (
          <OneGroup
            key={group.name}
            group={group}
            own={own}
            onKeep={(next) => void keep(next, group.name)}
            onRemove={() => run(() => takeGroupAway(group.name), setGroups)}
          />
        ) : (
          <Empty onAdd={add} />
        )}
      </Box>
    </Box>
  );
}

const Empty = ({ onAdd }: { onAdd: () => void }) => (
  <Box maxW="60ch">
    <Text mb="8px">
      Nobody is here yet. Make a group and write down who comes, or bring a table in: its first line names the columns.
    </Text>
    <Box as="pre" bg="linen" p="10px" borderRadius="6px" fontSize="13px" mb="12px" overflowX="auto">
      {"name,instrument,tuning,level,can,cannot,seat,notes\nWilla Fret,fiddle,,Steady,low2,,1,"}
    </Box>
    <SolidButton onClick={onAdd}>New group</SolidButton>
  </Box>
);

type OneProps = { group: Group; own: Instrument[]; onKeep: (next: Group) => void; onRemove: () => void };

function OneGroup({ group, own, onKeep, onRemove }: OneProps) {
  const { learners } = group;
  const instruments = catalogueWith(own);
  const change = (at: number, next: Learner | null) =>
    onKeep({ ...group, learners: learners.flatMap((l, i) => (i === at ? (next ?? []) : [l])) });
  const table = `data:text/csv;charset=utf-8,${encodeURIComponent(writeRoster(learners))}`;
  return (
    <>
      <Flex align="center" gap="12px" mb="10px" wrap="wrap">
        <Heading as="h2" fontSize="22px" fontWeight="600">
          {group.name}
        </Heading>
        <Text color="quiet">{counted(learners.length, "learner")}</Text>
        <Flex ml="auto" gap="14px" align="center" fontSize="14px" color="woad">
          <Rename name={group.name} onTake={(name) => onKeep({ ...group, name })} />
          <a href={table} download={`${group.name}.csv`} style={{ textDecoration: "underline" }}>
            take away as a table
          </a>
          <LinkButton tone="madder" onClick={onRemove}>
            remove the group
          </LinkButton>
        </Flex>
      </Flex>
      <LearnerHead />
      {learners.map((learner, i) => (
        <LearnerRow
          key={learner.name}
          learner={learner}
          instruments={instruments}
          own={own}
          taken={learners.filter((l) => l !== learner).map((l) => l.name)}
          onChange={(next) => change(i, next)}
          onRemove={() => change(i, null)}
        />
      ))}
      <LineButton mt="12px" onClick={() => onKeep({ ...group, learners: [...learners, fresh(learners.length)] })}>
        Add a learner
      </LineButton>
      <Text fontSize="13px" color="quiet" mt="14px" maxW="90ch">
        Words for can and cannot, with semicolons between: {Object.keys(WORDS).join(", ")}, and key:G, range:D4-B4,
        shape:Am.
      </Text>
    </>
  );
}

function Rename({ name, onTake }: { name: string; onTake: (name: string) => void }) {
  const [open, setOpen] = useState(false);
  if (!open) return <LinkButton onClick={() => setOpen(true)}>rename</LinkButton>;
  return (
    <Input
      size="sm"
      w="200px"
      aria-label="Name of the group"
      autoFocus
      defaultValue={name}
      borderColor="cord"
      onBlur={(e) => {
        setOpen(false);
        const next = e.target.value.trim().slice(0, 80);
        if (next && next !== name) onTake(next);
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}
