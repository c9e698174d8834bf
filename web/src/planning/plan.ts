import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";

export type Asked = Required<Shape["PlanAskedRequest"]>;
export type Plan = Shape["PlanPage"];

export const ASKED: Asked = {
  proposed: true,
  tasks: [],
  cold: [],
  wishes: [],
  technicians: 1,
  hands: [],
  pans: 2,
  planned: null,
  on: null,
};

/** What is chosen: what the planner proposes until somebody chooses by hand. From then on their
 * taps count at once, however long the plan takes to follow. */
function chosenTasks(plan: Plan, asked: Asked): Asked["tasks"] {
  if (!asked.proposed) {
    return asked.tasks.filter((one) => plan.tasks.some((task) => task.reservoir === one.reservoir));
  }
  return plan.tasks
    .filter((task) => task.chosen)
    .map(({ reservoir, variant }) => ({ reservoir, variant }));
}

/** The same plan, asked for by hand: what is chosen now, with something changed. */
export function byHand(plan: Plan, asked: Asked, more: Partial<Asked>): Asked {
  return { ...asked, proposed: false, tasks: chosenTasks(plan, asked), ...more };
}

/** The plan as it would be; asking writes nothing. */
export function usePlan(bike_id: string, asked: Asked) {
  return useQuery({
    queryKey: keys.plan(bike_id, asked),
    queryFn: () =>
      taken(api.POST("/api/bikes/{bike_id}/plan/", { params: { path: { bike_id } }, body: asked })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useCalendar() {
  return useQuery({ queryKey: keys.calendar, queryFn: () => taken(api.GET("/api/calendar/")) });
}

/** A visit that stands in the calendar; asked for anew each time it is opened. */
export function useBooked(visit_id: string) {
  return useQuery({
    queryKey: keys.booked(visit_id),
    queryFn: () =>
      taken(api.GET("/api/planned-visits/{visit_id}/", { params: { path: { visit_id } } })),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });
}

/** The calendar after a change; plans that took from the same shelf are asked for again. */
function useAfterChange() {
  const client = useQueryClient();
  return async (calendar: Shape["Calendar"]) => {
    await keep(client, keys.calendar, calendar);
    void client.invalidateQueries({ queryKey: keys.plans });
    void client.invalidateQueries({ queryKey: keys.wards });
  };
}

export function usePlanVisit() {
  const changed = useAfterChange();
  return useMutation({
    mutationFn: (body: Shape["NewPlannedVisitRequest"]) =>
      taken(api.POST("/api/calendar/", { body })),
    onSuccess: changed,
  });
}

export function useDrop() {
  const changed = useAfterChange();
  return useMutation({
    mutationFn: (visit_id: string) =>
      taken(api.DELETE("/api/planned-visits/{visit_id}/", { params: { path: { visit_id } } })),
    onSuccess: changed,
  });
}

/** What has come from the counter goes on the shelf; kits and shopping follow. */
export function usePutAway() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["ArrivalRequest"]) =>
      taken(api.POST("/api/shelf/arrivals/", { body })),
    onSettled: () =>
      Promise.all(
        [keys.calendar, keys.stock, keys.plans].map((queryKey) =>
          client.invalidateQueries({ queryKey }),
        ),
      ),
  });
}
