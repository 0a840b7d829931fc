import base from "./playwright.config";

export default { ...base, testDir: "./pictures", testIgnore: [], workers: 1 };
