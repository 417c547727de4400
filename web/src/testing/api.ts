/** The API at the other end of a pipe: every answer a test sees comes from it, in the same run. */
import { type ChildProcessWithoutNullStreams, spawn } from "node:child_process";
import { resolve } from "node:path";
import { createInterface } from "node:readline";

const ROOT = resolve(process.cwd(), "..");
const PYTHON = resolve(ROOT, ".venv/bin/python");

interface Answer {
  status: number;
  headers: Record<string, string>;
  body: string;
}

/** The other end outlives the files of tests that a worker runs one after the other. */
interface Line {
  program: ChildProcessWithoutNullStreams;
  waiting: Map<number, (answer: Answer) => void>;
  asked: number;
}
const worker = process as unknown as { line?: Line };

function line(): Line {
  if (worker.line) return worker.line;
  const program = spawn(PYTHON, ["-W", "ignore", "-m", "tests.page.answers"], { cwd: ROOT });
  const waiting: Line["waiting"] = new Map();
  createInterface({ input: program.stdout }).on("line", (text) => {
    const { id, ...answer } = JSON.parse(text);
    waiting.get(id)?.(answer);
    waiting.delete(id);
  });
  program.stderr.on("data", (text) => process.stderr.write(text));
  worker.line = { program, waiting, asked: 0 };
  return worker.line;
}

function tell(words: object): Promise<Answer> {
  const { program, waiting } = line();
  const id = ++line().asked;
  return new Promise((resolve) => {
    waiting.set(id, resolve);
    program.stdin.write(`${JSON.stringify({ id, ...words })}\n`);
  });
}

export type Scene = "demo" | "twenty" | "empty";

/** What has been asked since the scene began: "GET /api/status". */
export const asked: string[] = [];
let lost: RegExp | undefined;
let late: { pattern: RegExp; until: Promise<void> } | undefined;

/** On a fresh copy of the demo or of twenty payers of it, or on an empty product. */
export async function begin(scene: Scene) {
  asked.length = 0;
  lost = undefined;
  late = undefined;
  await tell({ scene });
}

/** From now on what is asked so is done, but its answer does not arrive; nothing: all arrive again. */
export const lose = (pattern?: RegExp) => {
  lost = pattern;
};

/** What is asked so is answered only once the returned function is called. */
export function hold(pattern: RegExp): () => void {
  let release = () => {};
  late = { pattern, until: new Promise((resolve) => (release = resolve)) };
  return release;
}

export async function fetched(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const request = new Request(input, init);
  const { pathname, search } = new URL(request.url);
  const path = pathname + search;
  const name = `${request.method} ${path}`;
  const body = Buffer.from(await request.arrayBuffer()).toString("base64");
  const headers = Object.fromEntries(request.headers);
  const answer = await tell({ method: request.method, path, headers, body });
  asked.push(name);
  if (late?.pattern.test(name)) await late.until;
  if (lost?.test(name)) throw new TypeError("the answer got lost");
  return new Response(answer.status === 204 ? null : answer.body, {
    status: answer.status,
    headers: answer.headers,
  });
}

/** What the API answers, as a component is given it. */
export async function answerOf<T>(path: string): Promise<T> {
  const answer = await tell({ method: "GET", path, headers: {}, body: "" });
  if (answer.status !== 200) throw new Error(`${path}: ${answer.body}`);
  return JSON.parse(answer.body);
}
