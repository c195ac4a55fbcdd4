import { type NextRequest, NextResponse } from "next/server";
import { FORWARDED, policy, turnedAway } from "./server/gate";

/** Every request passes here first: who asks, and what the answer may load. */
export function proxy(request: NextRequest): NextResponse {
  const { headers, method } = request;
  const caller = {
    method,
    host: headers.get("host"),
    origin: headers.get("origin"),
    site: headers.get("sec-fetch-site"),
    path: new URL(request.url).pathname,
  };
  const turned = turnedAway(caller, process.env.PORT ?? "3000");
  if (turned) return new NextResponse(turned.words, { status: turned.status });
  const nonce = Buffer.from(crypto.randomUUID()).toString("base64");
  const rules = policy(nonce, process.env.NODE_ENV === "development");
  const passed = new Headers(headers);
  for (const name of FORWARDED) passed.delete(name);
  passed.set("x-nonce", nonce);
  passed.set("Content-Security-Policy", rules);
  const response = NextResponse.next({ request: { headers: passed } });
  response.headers.set("Content-Security-Policy", rules);
  return response;
}
