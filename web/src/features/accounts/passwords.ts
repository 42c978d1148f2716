/** What a field is that takes a password: one that is known, or one that is chosen. */
export const OLD_PASSWORD = { type: "password", autoComplete: "current-password" };
export const NEW_PASSWORD = { type: "password", autoComplete: "new-password" };
