import base from "./playwright.config";

export default { ...base, testDir: "./speed", projects: undefined, workers: 1 };
