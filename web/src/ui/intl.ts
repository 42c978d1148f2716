/** To make a format of the reader's language takes thirty times as long as to use it: each is made once. */
function madeOnce<Options extends object, Format>(make: (options: Options) => Format) {
  const formats = new Map<string, Format>();
  return (options: Options) => {
    const key = JSON.stringify(options);
    const format = formats.get(key) ?? make(options);
    formats.set(key, format);
    return format;
  };
}

export const numberFormat = madeOnce((options: Intl.NumberFormatOptions) => new Intl.NumberFormat(undefined, options));

export const dateFormat = madeOnce(
  (options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(undefined, options),
);

/** Hours and minutes of a moment. */
export const timeOfDay = (moment: string) =>
  dateFormat({ hour: "2-digit", minute: "2-digit" }).format(new Date(moment));
