import { demo, make, morning, softpalm } from "./server";

/** Makes the database with the demo that those of the tests are copies of. */
export default function setup() {
	make(demo);
	softpalm(demo, ["demo", "../demo/studio.json"], { SOFTPALM_CLOCK_START: morning });
}
