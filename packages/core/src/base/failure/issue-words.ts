import * as z from 'zod';

const amount = (value: number | bigint): string => Number(value).toLocaleString('en', { maximumFractionDigits: 9 });

/** What a limit counts, by what it is a limit of. */
const COUNTED: Readonly<Record<string, string>> = {
  string: 'characters',
  array: 'entries',
  set: 'entries',
  map: 'entries',
  file: 'bytes',
};
/** What a value should be, by the type that is wanted. */
const TYPES: Readonly<Record<string, string>> = {
  number: 'a number',
  int: 'a whole number',
  string: 'a text',
  boolean: 'true or false',
  array: 'a list',
  object: 'a group of named values',
  record: 'a group of named values',
};
/** So many of the values that something may have are named. */
const NAMED = 8;

type Issue = z.core.$ZodRawIssue;

function limited(issue: Issue & { readonly origin: string }, limit: number | bigint, over: boolean): string {
  const counted = COUNTED[issue.origin];
  if (counted) return !over && limit === 1 ? 'is empty' : `has ${over ? 'more' : 'fewer'} than ${amount(limit)} ${counted}`;
  return `is ${over ? 'more' : 'less'} than ${amount(limit)}, the ${over ? 'most' : 'least'} that is allowed`;
}

/**
 * What a schema finds wrong with a value, as words that go on from its name: "width is more than 100,000, the most that is allowed".
 * Nothing for what the schema has words of its own for.
 */
function issueWords(issue: Issue): string | undefined {
  switch (issue.code) {
    case 'too_big':
      return issue.inclusive === false && !COUNTED[issue.origin]
        ? `is not less than ${amount(issue.maximum)}`
        : limited(issue, issue.maximum, true);
    case 'too_small':
      return issue.inclusive === false && !COUNTED[issue.origin]
        ? `is not more than ${amount(issue.minimum)}`
        : limited(issue, issue.minimum, false);
    case 'invalid_type':
      return issue.input === undefined ? 'is missing' : `is not ${TYPES[issue.expected] ?? `of the type ${issue.expected}`}`;
    case 'invalid_value': {
      const values = issue.values.map(String);
      const named = values.slice(0, NAMED).join(', ');
      return values.length === 1 ? `is not ${named}` : `is none of ${named}${values.length > NAMED ? ' …' : ''}`;
    }
    case 'unrecognized_keys':
      return `says ${issue.keys.map((key) => `“${key}”`).join(', ')}, which is not known here`;
    case 'not_multiple_of':
      return `is not a multiple of ${amount(issue.divisor)}`;
    case 'invalid_format':
      return `is not written as it should be (${issue.format})`;
    case 'invalid_union':
      return 'is none of the things that it may be';
    default:
      return undefined;
  }
}

// Every schema of the product says what it finds in these words.
z.config({ customError: issueWords });
