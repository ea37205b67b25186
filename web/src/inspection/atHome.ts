/** What the first screen asks for: the inspections in hand, and the visits of these days. */
import { api, answer } from "../api/client";
import { remembered } from "../api/remembered";

export const fetchAgenda = () => remembered("agenda", () => answer(api.GET("/api/agenda")));
export const fetchHome = () => remembered("home", () => answer(api.GET("/api/home")));
