/** Server state: one query client, one hook per thing that is read. */
import { QueryClient, infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => error instanceof RequestFailed && error.code === "offline" && count < 3,
      staleTime: 5_000,
      refetchOnWindowFocus: true,
    },
  },
});

export const meQuery = queryOptions({
  queryKey: ["me"],
  queryFn: () => ask(client.GET("/api/me")),
  retry: false,
  staleTime: 60_000,
});

export const dialoguesQuery = queryOptions({
  queryKey: ["dialogues"],
  queryFn: () => ask(client.GET("/api/dialogues")),
});

export const draftQuery = (dialogue: string) =>
  queryOptions({
    queryKey: ["draft", dialogue],
    queryFn: () => ask(client.GET("/api/dialogues/{dialogue}/draft", { params: { path: { dialogue } } })),
    refetchOnWindowFocus: false,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Failures after which the same question is worth asking again. */
const PASSING = new Set(["overtaken", "busy", "away", "offline"]);

/** What is computed of a draft's revision, compared with its newest release; follows the draft a moment later. */
export const analysisQuery = (dialogue: string, revision: number, release: number) =>
  queryOptions({
    queryKey: ["analysis", dialogue, revision, release],
    queryFn: ({ signal }) =>
      ask(client.GET("/api/dialogues/{dialogue}/draft/analysis", { params: { path: { dialogue } }, signal })),
    placeholderData: keepPreviousData,
    refetchOnWindowFocus: false,
    staleTime: Number.POSITIVE_INFINITY,
    // Nobody looks at a revision again that was overtaken.
    gcTime: 10_000,
    retry: (count, error) => error instanceof RequestFailed && PASSING.has(error.code) && count < 10,
    retryDelay: (count) => Math.min(300 * 2 ** count, 5_000),
  });

export const historyQuery = (dialogue: string, revision: number) =>
  queryOptions({
    queryKey: ["history", dialogue, revision],
    queryFn: () => ask(client.GET("/api/dialogues/{dialogue}/history", { params: { path: { dialogue } } })),
  });

export const releasesQuery = (dialogue: string) =>
  queryOptions({
    queryKey: ["releases", dialogue],
    queryFn: () => ask(client.GET("/api/dialogues/{dialogue}/releases", { params: { path: { dialogue } } })),
  });

export const fieldsQuery = queryOptions({ queryKey: ["fields"], queryFn: () => ask(client.GET("/api/fields")) });

export const catalogueQuery = queryOptions({
  queryKey: ["catalogue"],
  queryFn: () => ask(client.GET("/api/catalogue")),
});

export const domainsQuery = queryOptions({
  queryKey: ["domains"],
  queryFn: () => ask(client.GET("/api/settings/domains")),
});

export const visitorKeysQuery = queryOptions({
  queryKey: ["visitor-keys"],
  queryFn: () => ask(client.GET("/api/settings/visitor-keys")),
});

export const setupQuery = queryOptions({ queryKey: ["setup"], queryFn: () => ask(client.GET("/api/setup")) });

export const invitationQuery = (secret: string) =>
  queryOptions<Schemas["InvitationView"], RequestFailed>({
    queryKey: ["invitation", secret],
    queryFn: () => ask(client.POST("/api/join/look", { body: { secret } })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });

export const profileQuery = queryOptions({ queryKey: ["profile"], queryFn: () => ask(client.GET("/api/profile")) });

export const peopleQuery = queryOptions({ queryKey: ["people"], queryFn: () => ask(client.GET("/api/people")) });

export const workspaceQuery = queryOptions({
  queryKey: ["workspace"],
  queryFn: () => ask(client.GET("/api/settings/workspace")),
});

export type AuditFilter = {
  person: string | undefined;
  what: Schemas["Audited"] | undefined;
  from: string | undefined;
  to: string | undefined;
};

/** Pages of what was done, newest first. */
export const auditQuery = (filter: AuditFilter) =>
  infiniteQueryOptions({
    queryKey: ["audit", filter],
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/audit", { params: { query: { ...filter, before: pageParam ?? undefined } } })),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => (page.more ? (page.entries.at(-1)?.id ?? null) : null),
    placeholderData: keepPreviousData,
  });

export const queuesQuery = queryOptions({ queryKey: ["queues"], queryFn: () => ask(client.GET("/api/queues")) });

export const routingQuery = queryOptions({ queryKey: ["routing"], queryFn: () => ask(client.GET("/api/routing")) });

export type LeadFilter = "mine" | "queue" | "all";

/** Pages of leads; what is searched for is looked for at the server. */
export const leadsQuery = (show: LeadFilter, search = "") =>
  infiniteQueryOptions({
    queryKey: ["leads", show, search],
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/leads", { params: { query: { show, search, after: pageParam ?? undefined } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next ?? null,
    placeholderData: keepPreviousData,
  });

export const leadQuery = (lead: string) =>
  queryOptions({
    queryKey: ["lead", lead],
    queryFn: () => ask(client.GET("/api/leads/{lead}", { params: { path: { lead } } })),
  });

export const destinationsQuery = queryOptions({
  queryKey: ["destinations"],
  queryFn: () => ask(client.GET("/api/destinations")),
});

/** Pages of what went to a destination, newest first. */
export const sendingsQuery = (destination: string, state: Schemas["SendingState"] | "") =>
  infiniteQueryOptions({
    queryKey: ["sendings", destination, state],
    queryFn: ({ pageParam }) =>
      ask(
        client.GET("/api/destinations/{destination}/sendings", {
          params: { path: { destination }, query: { ...(state ? { state } : {}), before: pageParam ?? undefined } },
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => (page.more ? (page.sendings.at(-1)?.number ?? null) : null),
  });

export const teamQuery = queryOptions({ queryKey: ["team"], queryFn: () => ask(client.GET("/api/team")) });

export const takersQuery = queryOptions({ queryKey: ["takers"], queryFn: () => ask(client.GET("/api/takers")) });

export const commentsQuery = (dialogue: string) =>
  queryOptions({
    queryKey: ["comments", dialogue],
    queryFn: () => ask(client.GET("/api/dialogues/{dialogue}/comments", { params: { path: { dialogue } } })),
  });

export const ledgerQuery = (dialogue: string, revision: number) =>
  queryOptions({
    queryKey: ["ledger", dialogue, revision],
    queryFn: () => ask(client.GET("/api/dialogues/{dialogue}/ledger", { params: { path: { dialogue } } })),
    placeholderData: (known: Schemas["LedgerView"] | undefined) => known,
  });

export const phrasesQuery = (dialogue: string) =>
  queryOptions({
    queryKey: ["phrases", dialogue],
    queryFn: () => ask(client.GET("/api/dialogues/{dialogue}/phrases", { params: { path: { dialogue } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const patternsQuery = queryOptions({
  queryKey: ["patterns"],
  queryFn: () => ask(client.GET("/api/patterns")),
  staleTime: Number.POSITIVE_INFINITY,
});
