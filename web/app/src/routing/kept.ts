/** Queue settings after a change. */
import type { Schemas } from "../../../api";
import { queries, queuesQuery, routingQuery } from "../lib/query";

/** Keeps what was read after a change, wherever queues are shown. */
export function took(settings: Schemas["RoutingView"]) {
  queries.setQueryData(routingQuery.queryKey, settings);
  void queries.invalidateQueries({ queryKey: queuesQuery.queryKey });
  void queries.invalidateQueries({ queryKey: ["route-again"] });
  void queries.invalidateQueries({ queryKey: ["try-route"] });
}
