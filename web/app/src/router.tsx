import { createRootRoute, createRoute, createRouter, redirect } from "@tanstack/react-router";

import { AccountPage } from "./account/AccountPage";
import { AnswersStage } from "./answers/AnswersStage";
import { BriefStage } from "./brief/BriefStage";
import { DestinationsPage } from "./destinations/DestinationsPage";
import { MappingPage } from "./destinations/mapping/MappingPage";
import { DialogueScreen } from "./dialogue/DialogueScreen";
import { DialogueList } from "./dialogues/DialogueList";
import { NewDialogue } from "./dialogues/NewDialogue";
import { EnteringScreen } from "./entering/EnteringScreen";
import { Frame } from "./frame/Frame";
import { LeadsScreen } from "./leads/LeadsScreen";
import { meQuery, queries } from "./lib/query";
import { OutlineStage } from "./outline/OutlineStage";
import { ReleasesStage } from "./releases/ReleasesStage";
import { AuditPage } from "./people/AuditPage";
import { PeoplePage } from "./people/PeoplePage";
import { WorkspacePage } from "./people/WorkspacePage";
import { PlacementStage } from "./placement/PlacementStage";
import { CompaniesScreen } from "./records/CompaniesScreen";
import { ContactsScreen } from "./records/ContactsScreen";
import { HeldBackScreen } from "./records/HeldBackScreen";
import { TasksScreen } from "./records/TasksScreen";
import { RequestsScreen } from "./records/RequestsScreen";
import { RoutingStage } from "./routing/RoutingStage";
import { ScoringStage } from "./scoring/ScoringStage";
import { DomainsPage } from "./settings/DomainsPage";
import { FieldsPage } from "./settings/FieldsPage";
import { RunningPage } from "./settings/RunningPage";
import { SettingsScreen } from "./settings/SettingsScreen";
import { TokensPage } from "./settings/TokensPage";
import { VisitorsPage } from "./settings/VisitorsPage";
import { Join } from "./sign-in/Join";
import { Reset } from "./sign-in/Reset";
import { SetUp } from "./sign-in/SetUp";
import { SignIn } from "./sign-in/SignIn";
import { TeamScreen } from "./team/TeamScreen";

const root = createRootRoute({ notFoundComponent: NotFound });

const signIn = createRoute({ getParentRoute: () => root, path: "/sign-in", component: SignIn });

const setUp = createRoute({ getParentRoute: () => root, path: "/setup", component: SetUp });
const reset = createRoute({ getParentRoute: () => root, path: "/reset", component: Reset });
const join = createRoute({ getParentRoute: () => root, path: "/join", component: Join });

const frame = createRoute({
  getParentRoute: () => root,
  id: "frame",
  component: Frame,
  beforeLoad: async ({ location }) => {
    try {
      return { me: await queries.ensureQueryData(meQuery) };
    } catch {
      throw redirect({ to: "/sign-in", search: { then: location.pathname } as never });
    }
  },
});

const home = createRoute({
  getParentRoute: () => frame,
  path: "/",
  beforeLoad: ({ context }) => {
    throw redirect({ to: context.me.writes_dialogues ? "/dialogues" : "/leads" });
  },
});

const dialogues = createRoute({ getParentRoute: () => frame, path: "/dialogues", component: DialogueList });
const dialogue = createRoute({ getParentRoute: () => frame, path: "/dialogues/$dialogue", component: DialogueScreen });
const newDialogue = createRoute({ getParentRoute: () => frame, path: "/new-dialogue", component: NewDialogue });
const brief = createRoute({ getParentRoute: () => dialogue, path: "/brief", component: BriefStage });
const outline = createRoute({ getParentRoute: () => dialogue, path: "/", component: OutlineStage });
const scoring = createRoute({ getParentRoute: () => dialogue, path: "/scoring", component: ScoringStage });
const routing = createRoute({ getParentRoute: () => dialogue, path: "/routing", component: RoutingStage });
const placement = createRoute({ getParentRoute: () => dialogue, path: "/placement", component: PlacementStage });
const releases = createRoute({ getParentRoute: () => dialogue, path: "/releases", component: ReleasesStage });
const answers = createRoute({
  getParentRoute: () => dialogue,
  path: "/answers",
  component: AnswersStage,
  validateSearch: (search: Record<string, unknown>): { release?: number } => {
    const release = Number(search.release);
    return Number.isInteger(release) && release > 0 ? { release } : {};
  },
});
const contacts = createRoute({ getParentRoute: () => frame, path: "/contacts", component: ContactsScreen });
const contact = createRoute({ getParentRoute: () => frame, path: "/contacts/$contact", component: ContactsScreen });
const requests = createRoute({ getParentRoute: () => frame, path: "/requests", component: RequestsScreen });
const request = createRoute({ getParentRoute: () => frame, path: "/requests/$request", component: RequestsScreen });
const tasks = createRoute({ getParentRoute: () => frame, path: "/tasks", component: TasksScreen });
const heldBack = createRoute({ getParentRoute: () => frame, path: "/held-back", component: HeldBackScreen });
const companies = createRoute({ getParentRoute: () => frame, path: "/companies", component: CompaniesScreen });
const company = createRoute({ getParentRoute: () => frame, path: "/companies/$company", component: CompaniesScreen });
const leads = createRoute({ getParentRoute: () => frame, path: "/leads", component: LeadsScreen });
const lead = createRoute({ getParentRoute: () => frame, path: "/leads/$lead", component: LeadsScreen });

const entering = createRoute({ getParentRoute: () => frame, path: "/enter-leads", component: EnteringScreen });
const team = createRoute({ getParentRoute: () => frame, path: "/team", component: TeamScreen });

const settings = createRoute({ getParentRoute: () => frame, path: "/settings", component: SettingsScreen });
const settingsHome = createRoute({
  getParentRoute: () => settings,
  path: "/",
  beforeLoad: ({ context }) => {
    throw redirect({ to: context.me.writes_dialogues ? "/settings/fields" : "/settings/account" });
  },
});
const fields = createRoute({ getParentRoute: () => settings, path: "/fields", component: FieldsPage });
const domains = createRoute({ getParentRoute: () => settings, path: "/domains", component: DomainsPage });
const visitors = createRoute({ getParentRoute: () => settings, path: "/visitors", component: VisitorsPage });

const tokens = createRoute({ getParentRoute: () => settings, path: "/tokens", component: TokensPage });
const running = createRoute({ getParentRoute: () => settings, path: "/running", component: RunningPage });

const account = createRoute({ getParentRoute: () => settings, path: "/account", component: AccountPage });
const people = createRoute({ getParentRoute: () => settings, path: "/people", component: PeoplePage });
const audit = createRoute({ getParentRoute: () => settings, path: "/audit", component: AuditPage });
const destinations = createRoute({
  getParentRoute: () => settings,
  path: "/destinations",
  component: DestinationsPage,
});
const mapping = createRoute({
  getParentRoute: () => settings,
  path: "/destinations/$destination",
  component: MappingPage,
});
const workspace = createRoute({ getParentRoute: () => settings, path: "/workspace", component: WorkspacePage });

function NotFound() {
  return (
    <main className="p-8">
      <h1 className="font-serif text-xl">There is nothing at this address</h1>
      <p className="mt-2">
        <a className="text-spruce underline" href="/">
          Go to the start
        </a>
      </p>
    </main>
  );
}

export const router = createRouter({
  routeTree: root.addChildren([
    signIn,
    setUp,
    reset,
    join,
    frame.addChildren([
      home,
      dialogues,
      newDialogue,
      dialogue.addChildren([brief, outline, scoring, routing, placement, releases, answers]),
      leads,
      lead,
      entering,
      requests,
      request,
      heldBack,
      tasks,
      contacts,
      contact,
      companies,
      company,
      team,
      settings.addChildren([
        settingsHome,
        account,
        people,
        workspace,
        destinations,
        mapping,
        fields,
        domains,
        visitors,
        tokens,
        running,
        audit,
      ]),
    ]),
  ]),
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
