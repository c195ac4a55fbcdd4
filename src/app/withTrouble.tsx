import type { ReactNode } from "react";
import { z } from "zod";
import { databasePath, troubleOf } from "../db";
import { Refusal } from "../server/answer";
import { TroublePage } from "../ui/TroublePage";

/** A page; or, where its file of tunes or its tune is in trouble, a plain one that says what, where and what to do. */
export async function withTrouble(render: () => Promise<ReactNode>): Promise<ReactNode> {
  try {
    return await render();
  } catch (error) {
    const trouble = troubleOf(error, databasePath());
    if (trouble) return <TroublePage title="Your tunes cannot be reached" {...trouble} />;
    if (error instanceof Refusal)
      return <TroublePage title="This tune cannot be shown" what={error.message} remedy="The other tunes are well." />;
    if (!(error instanceof z.ZodError)) throw error;
    const [issue] = error.issues;
    const what = `Its stored state does not hold together (${issue?.path.join(".")}: ${issue?.message}).`;
    const remedy = "Bring back a backup in which it is whole, or delete it in the list. The other tunes are well.";
    return <TroublePage title="This tune cannot be shown" what={what} remedy={remedy} />;
  }
}
