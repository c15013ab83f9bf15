import type { Fault } from "../api/client";

/** What a change meant was changed or taken away elsewhere before it could be made. */
export const goneMeanwhile: Fault = {
  location: "",
  value: null,
  message: "this was changed or taken away elsewhere meanwhile: look at it as it is now",
  allowed: "",
};

/** What a change gives was given otherwise elsewhere before it could be made. */
export const changedMeanwhile: Fault = {
  location: "",
  value: null,
  message: "this was changed elsewhere meanwhile: look at it as it is now",
  allowed: "",
};

/** Another page of this device has the job in hand. */
export const inAnother: Fault = {
  location: "",
  value: null,
  message: "this job is open in another tab of this device: change it there, or take it over here",
  allowed: "",
};
