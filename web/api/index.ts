/** The client of Lumbo's API and its types, all generated from the OpenAPI document. */
import createClient from "openapi-fetch";

import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** A failed request, as its problem document; or no answer at all. */
export class RequestFailed extends Error {
  readonly problem: Problem | null;

  constructor(problem: Problem | null) {
    super(problem?.detail ?? "There is no connection to Lumbo. Nothing is lost; we try again when it is back.");
    this.problem = problem;
  }

  /** The stable code of the problem, or `offline`. */
  get code(): string {
    return this.problem ? this.problem.type.replace("urn:lumbo:problem:", "") : "offline";
  }
}

export const client = createClient<paths>({ baseUrl: "/" });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Waits for an answer and gives its data, or throws what went wrong. */
export async function ask<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw new RequestFailed(null);
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Problem | undefined;
  throw new RequestFailed(
    problem && typeof problem === "object" && "type" in problem
      ? problem
      : {
          type: "urn:lumbo:problem:failed",
          title: "failed",
          status: answer.response.status,
          detail: "Something failed on our side. Nothing was changed; try again in a moment.",
        },
  );
}
