import { expect, test } from "vitest";
import { data, detailOf, Problem, told } from "./client";

const answer = (status: number, body: unknown) =>
  Promise.resolve({ data: status < 400 ? body : undefined, error: body, response: new Response(null, { status }) });

test("an answer is its data", async () => {
  expect(await data(answer(200, { a: 1 }))).toEqual({ a: 1 });
});

test("a refusal carries the server's words and its status", async () => {
  const refusal = data(answer(409, { detail: "Look again." }));
  await expect(refusal).rejects.toThrow("Look again.");
  await expect(refusal).rejects.toMatchObject({ status: 409 });
});

test("no answer says what to do", async () => {
  await expect(data(Promise.reject(new TypeError("fetch failed")))).rejects.toBeInstanceOf(Problem);
  await expect(data(Promise.reject(new TypeError("fetch failed")))).rejects.toThrow("./start");
});

test("whatever comes has words", () => {
  expect(detailOf(null)).toContain("cannot be read");
  expect(detailOf(new Error("plain"))).toBe("plain");
});

const streamed = (...pieces: string[]) =>
  answer(
    200,
    new ReadableStream({
      start(controller) {
        for (const piece of pieces) controller.enqueue(new TextEncoder().encode(piece));
        controller.close();
      },
    }),
  );

test("long work tells how far it has come, whatever pieces its lines come in", async () => {
  const said: unknown[] = [];
  const lines = ['{"told":{"what":"Step 1","do', 'ne":1,"total":2}}\n{"found":', '{"edits":3}}\n'];
  expect(await told(streamed(...lines), (how) => said.push(how))).toEqual({ edits: 3 });
  expect(said).toEqual([{ what: "Step 1", done: 1, total: 2 }]);
});

test("long work that is refused, or that breaks off, says so", async () => {
  const refused = told(streamed('{"problem":{"status":422,"detail":"No step."}}\n'), () => undefined);
  await expect(refused).rejects.toMatchObject({ status: 422, message: "No step." });
  await expect(told(streamed('{"fou'), () => undefined)).rejects.toThrow("broke");
});
