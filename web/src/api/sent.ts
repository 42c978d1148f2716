/** What a form sends: its fields follow from the kind that was chosen, and the server checks each of them. */
export function sent<Body>(fields: object): Body {
  return fields as Body;
}
