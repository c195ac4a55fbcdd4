"use client";
import { Flex, Text } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import { settleDoubt } from "../../core/ensemble";
import { LineButton, LinkButton, SolidButton } from "../controls/buttons";
import { counted, timeWords } from "../signs";
import { Apart } from "./Apart";
import { Notice } from "./Notice";
import { useBench } from "./state";

/** What has gone wrong or is to be decided, where everyone looks first. */
export function Alerts() {
  const problem = useBench((s) => s.problem);
  const failure = useBench((s) => s.failure);
  const remark = useBench((s) => s.remark);
  const toggle = useBench((s) => s.toggle);
  return (
    <>
      <Unsaved />
      <Left />
      <Stalled />
      <Apart />
      <Doubts />
      {problem && (
        <Text role="alert" color="madder" py="3">
          {problem}
        </Text>
      )}
      {failure && (
        <Text role="alert" color="madder" py="3">
          No sound: {failure}{" "}
          <LinkButton tone="madder" onClick={toggle}>
            try again
          </LinkButton>
        </Text>
      )}
      {remark && (
        <Text role="status" color="quiet" py="2">
          {remark}
        </Text>
      )}
    </>
  );
}

/** Doubts shown at a time. */
const SHOWN = 4;
/** What was left out or read in doubt as the tune came in: looked at, put right or found right, one by one. */
function Doubts() {
  const doubts = useBench((s) => s.work.doubts);
  const change = useBench((s) => s.change);
  if (!doubts) return null;
  return (
    <Notice label="Read in doubt">
      <Text fontWeight="600">Some of this tune was read in doubt. Look at it against your copy:</Text>
      {doubts.slice(0, SHOWN).map((doubt) => (
        <Flex key={doubt} gap="12px" align="baseline" mt="4px">
          <Text flex="1">{doubt}</Text>
          <LineButton size="xs" onClick={() => change("Doubt settled", (w) => settleDoubt(w, doubt))}>
            settled
          </LineButton>
        </Flex>
      ))}
      {doubts.length > SHOWN && <Text color="quiet">and {doubts.length - SHOWN} more</Text>}
      {doubts.length > 1 && (
        <Flex mt="6px">
          <LineButton onClick={() => change("Doubts settled", (w) => settleDoubt(w))}>All of it is right</LineButton>
        </Flex>
      )}
    </Notice>
  );
}

/** What could not be saved, why, and what to do. */
function Unsaved() {
  const saving = useBench((s) => s.saving);
  const retry = useBench((s) => s.retry);
  const leaveOut = useBench((s) => s.leaveOut);
  const keepAnew = useBench((s) => s.keepAnew);
  const router = useRouter();
  if (saving.kind === "waiting")
    return (
      <Notice label="Not saved yet" tone="madder">
        <Text>{saving.problem}</Text>
        <Flex mt="2" gap="12px" align="center">
          <SolidButton onClick={retry}>Try now</SolidButton>
          <Text fontSize="14px" color="quiet">
            It is tried again by itself; nothing you did is lost meanwhile.
          </Text>
        </Flex>
      </Notice>
    );
  if (saving.kind === "refused")
    return (
      <Notice label="Not saved" tone="madder">
        <Text>{saving.problem}</Text>
        <Flex mt="2" gap="12px">
          <SolidButton onClick={retry}>Try once more</SolidButton>
          <LinkButton tone="madder" onClick={leaveOut}>
            leave out what is not saved
          </LinkButton>
        </Flex>
      </Notice>
    );
  if (saving.kind !== "gone") return null;
  const anew = () => keepAnew().then((id) => id !== undefined && router.push(`/tune/${id}`));
  return (
    <Notice label="The tune is gone" tone="madder">
      <Text>
        This tune is no longer in the collection; perhaps a backup was brought back. It is still here as you see it.
      </Text>
      <Flex mt="2" gap="12px">
        <SolidButton onClick={() => void anew()}>Keep it as a new tune</SolidButton>
      </Flex>
    </Notice>
  );
}

/** A worker that failed: what it left undone is asked for once more. */
function Stalled() {
  const stalled = useBench((s) => s.stalled);
  const tryAgain = useBench((s) => s.tryAgain);
  if (!stalled) return null;
  return (
    <Notice label="Something stopped" tone="madder">
      <Text>{stalled} What you did is kept.</Text>
      <Flex mt="2">
        <SolidButton onClick={tryAgain}>Try again</SolidButton>
      </Flex>
    </Notice>
  );
}

/** What an earlier page could not save, offered again. */
function Left() {
  const left = useBench((s) => s.left);
  const settled = useBench((s) => s.saving.kind === "saved");
  const takeLeft = useBench((s) => s.takeLeft);
  const setLeftAside = useBench((s) => s.setLeftAside);
  const [first] = left;
  if (!first || !settled) return null;
  const steps = [...new Set(left.map((s) => s.step))];
  return (
    <Notice label="Changes that were never saved">
      <Text>
        {counted(left.length, "change")} made here {timeWords(first.at)} could not be saved then:{" "}
        {steps.slice(0, 5).join(", ")}
        {steps.length > 5 ? ` and ${steps.length - 5} more` : ""}.
      </Text>
      <Flex mt="2" gap="8px">
        <SolidButton onClick={takeLeft}>Save them now</SolidButton>
        <LineButton onClick={setLeftAside}>Keep them as a version only</LineButton>
      </Flex>
    </Notice>
  );
}
