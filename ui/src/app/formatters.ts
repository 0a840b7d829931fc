// Runs as a worker. The first formatter of a browser's process reads what the browser knows of languages and time zones,
// which keeps a phone busy for a fifth of a second; what is read here is there for the page as well.
const zone = { timeZone: "Europe/London" };
new Intl.DateTimeFormat("en-GB", { ...zone, weekday: "long", day: "numeric", month: "long" }).format();
new Intl.DateTimeFormat("sv-SE", { ...zone, year: "numeric", month: "2-digit", day: "2-digit" }).format();
new Intl.NumberFormat("en-GB", { style: "currency", currency: "EUR" }).format(1);
self.close();
