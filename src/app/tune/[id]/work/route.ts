import type { Answer } from "../../../../server/answer";
import { answerAsk } from "../../../../server/asks";
import { numberOf } from "../../../../server/page";

/** The most that is taken in one request, in characters: a work of the largest tune with room for its locks. */
const LARGEST = 12_000_000;

/** How an answer is called to who reads no words: what may be asked again is a matter of time. */
function statusOf(answer: Answer<unknown>): number {
  if (answer.ok) return 200;
  return answer.again ? 503 : 400;
}

/** What a bench asks of the work on a tune: to load it, to save a step, to go back. Answers in words whatever comes. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const text = await request.text();
  if (text.length > LARGEST)
    return Response.json(
      { ok: false, problem: "This is more than a tune can hold. Nothing was saved.", again: false },
      { status: 413 },
    );
  const answer = await answerAsk(numberOf((await params).id), parsed(text));
  return Response.json(answer, { status: statusOf(answer) });
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
