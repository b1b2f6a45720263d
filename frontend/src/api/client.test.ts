import { expect, test } from "vitest";
import { data, detailOf, Problem } from "./client";

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
