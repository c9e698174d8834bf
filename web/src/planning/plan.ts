import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape } from "../api/client";

export type Asked = Required<Shape["PlanAskedRequest"]>;
export type Plan = Shape["PlanPage"];

export const ASKED: Asked = {
  proposed: true,
  tasks: [],
  cold: [],
  wishes: [],
  technicians: 1,
  pans: 2,
};

/** The plan as it would be; asking writes nothing. */
export function usePlan(bike_id: string, asked: Asked) {
  return useQuery({
    queryKey: ["plan", bike_id, asked],
    queryFn: () =>
      taken(api.POST("/api/bikes/{bike_id}/plan/", { params: { path: { bike_id } }, body: asked })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
  });
}

export function useCalendar() {
  return useQuery({ queryKey: ["calendar"], queryFn: () => taken(api.GET("/api/calendar/")) });
}

export function usePlanVisit() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["NewPlannedVisitRequest"]) =>
      taken(api.POST("/api/calendar/", { body })),
    onSuccess: (calendar) => client.setQueryData(["calendar"], calendar),
  });
}

export function useDrop() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (visit_id: string) =>
      taken(api.DELETE("/api/planned-visits/{visit_id}/", { params: { path: { visit_id } } })),
    onSuccess: (calendar) => client.setQueryData(["calendar"], calendar),
  });
}

/** Minutes from the start as a clock: 1:05. */
export function clock(minutes: number): string {
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
}
