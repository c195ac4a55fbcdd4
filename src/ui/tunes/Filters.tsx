"use client";
import { Button, Flex, Input, NativeSelect } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import type { Asked } from "../../db";
import { addressOf } from "./address";
import { NoteSearch } from "./NoteSearch";

export type Shelves = { dances: string[]; keys: string[]; metres: string[]; tags: string[] };

/** Pause after the last letter before a search goes out, in milliseconds. */
const PAUSE = 180;

/**
 * What the list shows: words, dance, key, metre, tag, few pitches, rights. The address keeps it, so that it can be kept
 * as a bookmark.
 */
export function Filters({
  asked,
  notes: askedNotes,
  unread,
  shelves,
  filtered,
}: {
  asked: Asked;
  notes: string;
  /** What was typed for notes is none. */
  unread: boolean;
  shelves: Shelves;
  filtered: boolean;
}) {
  const router = useRouter();
  const [find, setFind] = useState(asked.find ?? "");
  const [notes, setNotes] = useState(askedNotes);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const go = (words: string, some: string, change: Partial<Asked> = {}) =>
    router.replace(addressOf({ ...asked, find: words, ...change }, { notes: some }), { scroll: false });
  const ask = (change: Partial<Asked>) => go(find, notes, change);
  const later = (words: string, some: string) => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => go(words, some), PAUSE);
  };
  const type = (words: string) => {
    setFind(words);
    later(words, notes);
  };
  const typeNotes = (some: string) => {
    setNotes(some);
    later(find, some);
  };
  const select = (
    label: string,
    value: string | undefined,
    options: readonly (readonly [string, string])[],
    take: (value: string | undefined) => Partial<Asked>,
  ) => (
    <NativeSelect.Root size="sm" w="auto" key={label}>
      <NativeSelect.Field
        aria-label={label}
        bg={value ? "wash" : "transparent"}
        borderColor={value ? "quiet" : "transparent"}
        color={value ? "ink" : "quiet"}
        _hover={{ borderColor: "cord" }}
        value={value ?? ""}
        onChange={(e) => ask(take(e.target.value || undefined))}
      >
        <option value="">{label}</option>
        {options.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
  );
  const plain = (list: readonly string[]) => list.map((v) => [v, v] as const);
  return (
    <Flex
      as="form"
      role="search"
      gap="8px"
      mb="3"
      wrap="wrap"
      align="center"
      onSubmit={(e) => {
        e.preventDefault();
        ask({});
      }}
    >
      <Flex gap="10px" w="100%" wrap="wrap">
        <Input
          flex="1 1 240px"
          maxW="420px"
          h="44px"
          type="search"
          aria-label="Find words in any tune"
          placeholder="Find a title, a word, a source"
          value={find}
          onChange={(e) => type(e.target.value)}
          borderColor="quiet"
          bg="fleece"
          fontSize="16px"
        />
        <NoteSearch notes={notes} unread={unread} onNotes={typeNotes} />
      </Flex>
      {select("any dance", asked.dance, plain(shelves.dances), (dance) => ({ dance }))}
      {select("any key", asked.key, plain(shelves.keys), (key) => ({ key }))}
      {select("any metre", asked.metre, plain(shelves.metres), (metre) => ({ metre }))}
      {select(
        "any notes",
        asked.pitches ? String(asked.pitches) : undefined,
        [4, 5, 6, 8, 10].map((n) => [String(n), `${n} notes at most`] as const),
        (n) => ({ pitches: n ? Number(n) : undefined }),
      )}
      {shelves.tags.length > 0 && select("any tag", asked.tag, plain(shelves.tags), (tag) => ({ tag }))}
      {select(
        "any state",
        asked.ready,
        [
          ["ready", "ready to copy"],
          ["open", "rights to record"],
        ],
        (ready) => ({ ready: ready as Asked["ready"] }),
      )}
      {filtered && (
        <Button
          variant="plain"
          size="sm"
          color="woad"
          px="1"
          onClick={() => {
            setFind("");
            setNotes("");
            router.replace("/", { scroll: false });
          }}
        >
          show all
        </Button>
      )}
    </Flex>
  );
}
