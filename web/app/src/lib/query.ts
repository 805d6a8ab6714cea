/** Server state: one query client, one hook per thing that is read. */
import { QueryClient, infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import type { Filter } from "../answers/words";
import { asked } from "../answers/words";

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

export const tokensQuery = queryOptions({ queryKey: ["tokens"], queryFn: () => ask(client.GET("/api/tokens")) });

/** Jobs, sizes and versions of the workspace. */
export const runningQuery = queryOptions({ queryKey: ["running"], queryFn: () => ask(client.GET("/api/running")) });

/** The provider that people may sign in through. */
export const providerQuery = queryOptions({
  queryKey: ["provider"],
  queryFn: () => ask(client.GET("/api/sign-in/provider")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Whether one's account is linked with it. */
export const providerLinkQuery = queryOptions({
  queryKey: ["provider-link"],
  queryFn: () => ask(client.GET("/api/profile/provider")),
});

export const setupQuery = queryOptions({ queryKey: ["setup"], queryFn: () => ask(client.GET("/api/setup")) });

export const invitationQuery = (secret: string) =>
  queryOptions<Schemas["InvitationView"], RequestFailed>({
    queryKey: ["invitation", secret],
    queryFn: () => ask(client.POST("/api/join/look", { body: { secret } })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Whose a way to a new password is. */
export const resetQuery = (secret: string) =>
  queryOptions<Schemas["ResetView"], RequestFailed>({
    queryKey: ["reset", secret],
    queryFn: () => ask(client.POST("/api/reset/look", { body: { secret } })),
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

export type LeadFilter = Schemas["LeadFilter"];

/** Pages of leads; what is searched for is looked for at the server. */
export const leadsQuery = (show: LeadFilter, search = "", look = "") =>
  infiniteQueryOptions({
    queryKey: ["leads", show, search, look],
    queryFn: ({ pageParam }) =>
      ask(
        client.GET("/api/leads", {
          params: { query: { show, search, look: look || undefined, after: pageParam ?? undefined } },
        }),
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next ?? null,
    placeholderData: keepPreviousData,
  });

/** What leads can be looked for by. */
export const lookedForQuery = queryOptions({
  queryKey: ["looked-for"],
  queryFn: () => ask(client.GET("/api/leads/looked-for")),
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

/** What leads are entered by. */
export const enteringQuery = queryOptions({
  queryKey: ["entering"],
  queryFn: () => ask(client.GET("/api/imports/form")),
});

/** What was entered, the newest first. */
export const importsQuery = queryOptions({ queryKey: ["imports"], queryFn: () => ask(client.GET("/api/imports")) });

/** What one was told lately. */
export const noticesQuery = queryOptions({
  queryKey: ["notices"],
  queryFn: () => ask(client.GET("/api/notices")),
});

/** How one wants to be told. */
export const alertsQuery = queryOptions({ queryKey: ["alerts"], queryFn: () => ask(client.GET("/api/alerts")) });

/** What goes where at a customer system or a sheet. */
export const mappingQuery = (destination: string) =>
  queryOptions({
    queryKey: ["mapping", destination],
    queryFn: () => ask(client.GET("/api/destinations/{destination}/mapping", { params: { path: { destination } } })),
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

/** Tags that leads have, the most used first. */
export const tagsQuery = queryOptions({ queryKey: ["tags"], queryFn: () => ask(client.GET("/api/tags")) });

/** Files of companies and contacts that were taken in. */
export const recordFilesQuery = queryOptions({
  queryKey: ["record-files"],
  queryFn: () => ask(client.GET("/api/record-files")),
});

/** What a mail from a lead begins with. */
export const mailQuery = (lead: string) =>
  queryOptions({
    queryKey: ["mail", lead],
    queryFn: () => ask(client.GET("/api/leads/{lead}/mails", { params: { path: { lead } } })),
  });

export const repliesQuery = queryOptions({ queryKey: ["replies"], queryFn: () => ask(client.GET("/api/replies")) });

/** Lists of leads that one keeps under a name. */
export const lensesQuery = queryOptions({ queryKey: ["lenses"], queryFn: () => ask(client.GET("/api/lenses")) });

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

/** What a typed line would become at a place of a draft. */
export const understoodQuery = (dialogue: string, revision: number, text: string, at: Schemas["Place"]) =>
  queryOptions({
    queryKey: ["understood", dialogue, revision, text, at],
    queryFn: () =>
      ask(client.POST("/api/dialogues/{dialogue}/understand", { params: { path: { dialogue } }, body: { text, at } })),
    enabled: text !== "",
    retry: false,
    gcTime: 60_000,
  });

/** What a dialogue file or a pattern brings along; nothing is asked where there is none. */
export const broughtQuery = (look: Schemas["LookInto"] | null) =>
  queryOptions({
    queryKey: ["brought", look],
    queryFn: () => ask(client.POST("/api/dialogues/read", { body: look ?? {} })),
    enabled: look !== null,
    retry: false,
  });

/** Pages of what a dialogue's conversations said, the newest first. */
export const answersQuery = (dialogue: string, filter: Filter) =>
  infiniteQueryOptions({
    queryKey: ["answers", dialogue, filter],
    queryFn: ({ pageParam, signal }) =>
      ask(
        client.GET("/api/dialogues/{dialogue}/answers", {
          params: { path: { dialogue }, query: { ...asked(filter), ...(pageParam ? { after: pageParam } : {}) } },
          signal,
        }),
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next ?? null,
    placeholderData: keepPreviousData,
  });

export const conversationQuery = (dialogue: string, conversation: string) =>
  queryOptions({
    queryKey: ["conversation", dialogue, conversation],
    queryFn: () =>
      ask(
        client.GET("/api/dialogues/{dialogue}/conversations/{conversation}", {
          params: { path: { dialogue, conversation } },
        }),
      ),
  });

/** Pages of contacts, by name. */
export const contactsQuery = (search: string) =>
  infiniteQueryOptions({
    queryKey: ["contacts", search],
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/contacts", { params: { query: { search, after: pageParam ?? undefined } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next ?? null,
    placeholderData: keepPreviousData,
  });

export const contactQuery = (contact: string) =>
  queryOptions({
    queryKey: ["contact", contact],
    queryFn: () => ask(client.GET("/api/contacts/{contact}", { params: { path: { contact } } })),
  });

export const alikeQuery = (contact: string) =>
  queryOptions({
    queryKey: ["alike", contact],
    queryFn: () => ask(client.GET("/api/contacts/{contact}/alike", { params: { path: { contact } } })),
  });

export const erasureQuery = (contact: string) =>
  queryOptions({
    queryKey: ["erasure", contact],
    queryFn: () => ask(client.GET("/api/contacts/{contact}/erasure", { params: { path: { contact } } })),
    staleTime: 0,
  });

/** Pages of companies, by name. */
export const companiesQuery = (search: string) =>
  infiniteQueryOptions({
    queryKey: ["companies", search],
    queryFn: ({ pageParam }) =>
      ask(client.GET("/api/companies", { params: { query: { search, after: pageParam ?? undefined } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next ?? null,
    placeholderData: keepPreviousData,
  });

export const companyQuery = (company: string) =>
  queryOptions({
    queryKey: ["company", company],
    queryFn: () => ask(client.GET("/api/companies/{company}", { params: { path: { company } } })),
  });

export const keepingQuery = queryOptions({
  queryKey: ["keeping"],
  queryFn: () => ask(client.GET("/api/settings/keeping")),
});

/** What one owes and has not done. */
export const tasksQuery = queryOptions({
  queryKey: ["tasks"],
  queryFn: () => ask(client.GET("/api/tasks")),
});

/** Conversations that wait for somebody to look at them. */
export const heldBackQuery = queryOptions({
  queryKey: ["held-back"],
  queryFn: () => ask(client.GET("/api/held-back")),
});

/** Requests to be answered by when they are due, or those that are done. */
export const requestsQuery = (done: boolean) =>
  queryOptions({
    queryKey: ["requests", done],
    queryFn: () => ask(client.GET("/api/requests", { params: { query: { done } } })),
    placeholderData: keepPreviousData,
  });

export const requestQuery = (request: string) =>
  queryOptions({
    queryKey: ["request", request],
    queryFn: () => ask(client.GET("/api/requests/{request}", { params: { path: { request } } })),
  });
