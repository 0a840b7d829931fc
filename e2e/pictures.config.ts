import base from "./playwright.config";

export default { ...base, testDir: "./pictures", projects: undefined, workers: 1 };
