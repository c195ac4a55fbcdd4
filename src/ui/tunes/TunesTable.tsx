"use client";
import { Box, Checkbox, Flex, Input, Table, Text } from "@chakra-ui/react";
import { ArrowDown, ArrowUp } from "../icons";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Rights } from "../../core/score";
import type { Asked, Sort } from "../../db";
import { putAside, recordRightsOf, tag } from "../../server/actions";
import type { Listed } from "../../server/collection";
import type { Left } from "../../server/states";
import { Picker } from "../controls/Choice";
import { LineButton } from "../controls/buttons";
import { RIGHTS_WORDS } from "../rights";
import { tell } from "../saving/tabs";
import { counted } from "../signs";
import { useDeed } from "../useDeed";
import { WeaveStrip } from "../weave/WeaveStrip";
import { addressOf } from "./address";
import { PlayTune } from "./PlayTune";

type Column = { head: string; sort?: Sort; wide?: boolean; cell: (tune: Listed) => React.ReactNode };

const quiet = (words: React.ReactNode) => (
  <Text as="span" fontSize="14px" lineHeight="18px" display="block">
    {words}
  </Text>
);

/** Columns after the title; `wide` ones give way when the intake is open. */
const COLUMNS: readonly Column[] = [
  { head: "Dance", sort: "dance", cell: (t) => quiet(t.dance) },
  { head: "Key", sort: "key", cell: (t) => quiet(t.key) },
  { head: "Metre", sort: "metre", cell: (t) => quiet(t.metre) },
  { head: "Range", sort: "range", wide: true, cell: (t) => quiet(t.range.replaceAll("#", "♯")) },
  { head: "Notes", sort: "pitches", wide: true, cell: (t) => quiet(t.pitches) },
];

/** The list: sorted by any head, chosen by any box, and what can be done with the chosen ones. */
export function TunesTable({
  tunes,
  asked,
  notes,
  narrow,
  tags,
  onAside,
}: {
  tunes: Listed[];
  asked: Asked;
  notes: string;
  narrow: boolean;
  tags: string[];
  onAside: (ids: number[]) => void;
}) {
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const live = tunes.filter((t) => chosen.has(t.id)).map((t) => t.id);
  const columns = COLUMNS.filter((c) => !narrow || !c.wide);
  const sort = asked.sort ?? "title";
  const way = asked.down ? "descending" : "ascending";
  const toggle = (id: number) =>
    setChosen((old) => {
      const next = new Set(old);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const head = (words: string, by: Sort | undefined) =>
    by === undefined ? (
      words
    ) : (
      <Link
        href={addressOf({ ...asked, sort: by, down: sort === by ? !asked.down : false }, { notes })}
        scroll={false}
        aria-label={`Sort by ${words.toLowerCase()}`}
      >
        <Flex
          as="span"
          align="center"
          gap="3px"
          color={sort === by ? "ink" : "quiet"}
          fontWeight={sort === by ? "700" : "500"}
        >
          {words}
          {sort === by && (asked.down ? <ArrowDown size={13} /> : <ArrowUp size={13} />)}
        </Flex>
      </Link>
    );
  return (
    <>
      {live.length > 0 && (
        <Bulk
          ids={live}
          tags={tags}
          onAside={(ids) => {
            setChosen(new Set());
            onAside(ids);
          }}
        />
      )}
      <Box overflowX="auto">
        <Table.Root
          size="sm"
          variant="line"
          tableLayout="fixed"
          css={{ "& td, & th": { borderColor: "cord", bg: "transparent" } }}
        >
          <Table.Header>
            <Table.Row bg="transparent">
              <Table.ColumnHeader ps="0" w="72px">
                <Tick
                  label="Choose all shown"
                  checked={live.length === tunes.length && tunes.length > 0}
                  onToggle={() => setChosen(live.length === tunes.length ? new Set() : new Set(tunes.map((t) => t.id)))}
                />
              </Table.ColumnHeader>
              <Table.ColumnHeader ps="0" fontSize="13px" w={narrow ? "38%" : "28%"}>
                {head("Tune", "title")}
              </Table.ColumnHeader>
              {columns.map((c) => (
                <Table.ColumnHeader
                  key={c.head}
                  color="quiet"
                  fontWeight="500"
                  fontSize="13px"
                  px="6px"
                  display={{ base: c.wide ? "none" : "table-cell", lg: "table-cell" }}
                  aria-sort={c.sort === sort ? way : undefined}
                >
                  {head(c.head, c.sort)}
                </Table.ColumnHeader>
              ))}
              <Table.ColumnHeader color="quiet" fontWeight="500" fontSize="13px" w={narrow ? "24%" : "30%"}>
                The weave
              </Table.ColumnHeader>
            </Table.Row>
          </Table.Header>
          <Table.Body>
            {tunes.map((tune) => (
              <Table.Row
                key={tune.id}
                bg={chosen.has(tune.id) ? "wash" : "transparent"}
                _hover={{ bg: chosen.has(tune.id) ? "wash" : "linen" }}
              >
                <Table.Cell ps="0">
                  <Flex align="center">
                    <Tick
                      label={`Choose ${tune.title}`}
                      checked={chosen.has(tune.id)}
                      onToggle={() => toggle(tune.id)}
                    />
                    <PlayTune id={tune.id} title={tune.title} />
                  </Flex>
                </Table.Cell>
                <Table.Cell ps="0" py="10px">
                  <Link href={`/tune/${tune.id}`}>
                    <Text
                      as="span"
                      fontFamily="heading"
                      fontSize="17px"
                      fontWeight="500"
                      textDecoration="underline"
                      textDecorationColor="cord"
                      textUnderlineOffset="4px"
                    >
                      {tune.title}
                    </Text>
                  </Link>
                  {(tune.source || tune.tags.length > 0 || !tune.ready) && (
                    <Text fontSize="13px" color="quiet" lineHeight="17px" truncate>
                      {tune.tags.map((t) => (
                        <Box as="span" key={t} bg="linen" borderRadius="3px" px="5px" mr="5px">
                          {t}
                        </Box>
                      ))}
                      {tune.source || (tune.ready ? "" : "rights still to record")}
                    </Text>
                  )}
                </Table.Cell>
                {columns.map((c) => (
                  <Table.Cell
                    key={c.head}
                    px="6px"
                    display={{ base: c.wide ? "none" : "table-cell", lg: "table-cell" }}
                  >
                    {c.cell(tune)}
                  </Table.Cell>
                ))}
                <Table.Cell title={tune.sentence}>
                  <WeaveStrip cells={tune.weave} height={20} />
                </Table.Cell>
              </Table.Row>
            ))}
          </Table.Body>
        </Table.Root>
      </Box>
    </>
  );
}

const Tick = ({ label, checked, onToggle }: { label: string; checked: boolean; onToggle: () => void }) => (
  <Checkbox.Root size="sm" checked={checked} onCheckedChange={onToggle} aria-label={label}>
    <Checkbox.HiddenInput aria-label={label} />
    <Checkbox.Control
      borderColor="quiet"
      bg="fleece"
      _checked={{ bg: "block", color: "onBlock", borderColor: "block" }}
    />
  </Checkbox.Root>
);

/** What can be done with the chosen tunes. */
function Bulk({ ids, tags, onAside }: { ids: number[]; tags: string[]; onAside: (ids: number[]) => void }) {
  const { failure, run } = useDeed();
  const router = useRouter();
  const [left, setLeft] = useState<Left[]>([]);
  /** After a deed the list is shown anew. */
  const then = (next: () => void) => () => {
    setLeft([]);
    next();
    tell(null);
    router.refresh();
  };
  return (
    <Flex
      bg="linen"
      borderRadius="6px"
      px="12px"
      py="8px"
      mb="2"
      align="center"
      gap="8px 12px"
      wrap="wrap"
      role="group"
      aria-label="With the chosen tunes"
      fontSize="14px"
    >
      <Text fontWeight="700">{ids.length} chosen</Text>
      <TagForm tags={tags} onTag={(name, on, done) => void run(() => tag({ ids, name, on }), then(done))} />
      <RightsForm
        onRecord={(rights, source, done) =>
          void run(
            () => recordRightsOf({ ids, rights, source }),
            (some) => {
              then(done)();
              setLeft(some);
            },
          )
        }
      />
      <LineButton
        ml="auto"
        color="madder"
        borderColor="madder"
        onClick={() =>
          void run(
            () => putAside({ ids, aside: true }),
            then(() => onAside(ids)),
          )
        }
      >
        Delete
      </LineButton>
      {failure}
      {left.length > 0 && (
        <Text role="alert" color="madder" w="100%">
          {counted(left.length, "tune")} could not be changed, the others were: {left[0]?.problem}
        </Text>
      )}
    </Flex>
  );
}

type TagFormProps = { tags: string[]; onTag: (name: string, on: boolean, done: () => void) => void };

function TagForm({ tags, onTag }: TagFormProps) {
  const [name, setName] = useState("");
  const put = (on: boolean) => {
    if (name.trim()) onTag(name, on, () => setName(""));
  };
  return (
    <Flex
      as="form"
      gap="6px"
      onSubmit={(e) => {
        e.preventDefault();
        put(true);
      }}
    >
      <Input
        size="sm"
        w="130px"
        bg="fleece"
        borderColor="cord"
        placeholder="a tag"
        aria-label="Tag"
        list="known-tags"
        value={name}
        maxLength={40}
        onChange={(e) => setName(e.target.value)}
      />
      <datalist id="known-tags">
        {tags.map((t) => (
          <option key={t} value={t} />
        ))}
      </datalist>
      <LineButton type="submit" disabled={!name.trim()}>
        Tag
      </LineButton>
      <LineButton disabled={!name.trim()} onClick={() => put(false)}>
        Untag
      </LineButton>
    </Flex>
  );
}

const RIGHTS_CHOICES = [
  { value: "", words: "rights…" },
  ...Rights.options.filter((r) => r !== "unknown").map((r) => ({ value: r, words: RIGHTS_WORDS[r] })),
];

type RightsFormProps = { onRecord: (rights: Rights, source: string, done: () => void) => void };

function RightsForm({ onRecord }: RightsFormProps) {
  const [rights, setRights] = useState("");
  const [source, setSource] = useState("");
  const checked = Rights.safeParse(rights);
  const record = () => {
    if (!checked.success) return;
    onRecord(checked.data, source, () => {
      setRights("");
      setSource("");
    });
  };
  return (
    <Flex
      as="form"
      gap="6px"
      onSubmit={(e) => {
        e.preventDefault();
        record();
      }}
    >
      <Picker label="Rights" width="190px" of={RIGHTS_CHOICES} now={rights} onTake={setRights} />
      <Input
        size="sm"
        w="150px"
        bg="fleece"
        borderColor="cord"
        placeholder="source, if one"
        aria-label="Source"
        value={source}
        maxLength={2000}
        onChange={(e) => setSource(e.target.value)}
      />
      <LineButton type="submit" disabled={!checked.success}>
        Record
      </LineButton>
    </Flex>
  );
}
