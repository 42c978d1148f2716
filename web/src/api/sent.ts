/** What a form sends whose fields follow from the kind that was chosen; the server checks each of them. */
export function sent<Body>(fields: object): Body {
  return fields as Body;
}
