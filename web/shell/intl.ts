/**
 * Making a formatter takes a hundred times as long as formatting with it, and tables format in every cell: each is made once
 * for a locale and its options.
 */
function madeOnce<Options extends object, Format>(
  make: (locale: string, options: Options) => Format,
): (locale: string, options?: Options) => Format {
  const made = new Map<string, Format>();
  return (locale, options = {} as Options) => {
    const key = locale + JSON.stringify(options);
    const format = made.get(key) ?? make(locale, options);
    made.set(key, format);
    return format;
  };
}

export const dateFormat = madeOnce(
  (locale, options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(locale, options),
);
export const numberFormat = madeOnce(
  (locale, options: Intl.NumberFormatOptions) => new Intl.NumberFormat(locale, options),
);
export const regionNames = madeOnce(
  (locale, options: Partial<Intl.DisplayNamesOptions>) =>
    new Intl.DisplayNames(locale, { ...options, type: 'region' }),
);
