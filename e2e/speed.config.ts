import base from "./playwright.config";

export default { ...base, testDir: "./speed", testIgnore: [], workers: 1 };
