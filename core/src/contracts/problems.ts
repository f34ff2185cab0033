/** Every error that the server answers with: stable code → status and words. */
export const PROBLEMS = {
  malformed: [400, 'The request is not understood.'],
  'foreign-database': [
    409,
    'This server keeps another database than the one that this was meant for. Nothing of it was taken.',
  ],
  'foreign-origin': [403, 'Requests from other sites are not taken.'],
  'wrong-key': [
    403,
    'This bookmark has no right to hand anything in any more. Make a new one in the settings.',
  ],
  'not-known': [401, 'Nobody here knows who asks.'],
  'foreign-host': [421, 'This address is not served here.'],
  'not-found': [404, 'There is nothing at this address.'],
  'board-missing': [404, 'This board does not exist.'],
  'picture-missing': [404, 'This picture has not arrived here.'],
  'subject-missing': [404, 'This subject does not exist.'],
  'level-missing': [404, 'This copy of the picture has not been made yet.'],
  'board-exists': [409, 'A board with this id exists already.'],
  ahead: [409, 'The server knows an earlier state of this board than you do.'],
  'too-large': [413, 'The request is too large.'],
  'no-such-part': [416, 'The file does not reach so far.'],
  'unknown-encoding': [415, 'The request comes in an encoding that is not read here.'],
  'not-multipart': [415, 'Pictures are sent as a form with files.'],
  'all-refused': [422, 'None of the files could be taken.'],
  'address-unreadable': [422, 'This is no address of the web.'],
  'address-private': [422, 'This address lies inside a network, not in the web. It is not asked.'],
  'address-unreachable': [422, 'Nothing answers at this address.'],
  'address-refused': [422, 'The site does not hand it out.'],
  'address-slow': [422, 'The site takes too long.'],
  'address-large': [422, 'What is there is too large.'],
  'address-circles': [422, 'The address leads from one to the next without end.'],
  'address-unusable': [422, 'What is there is neither a picture nor a page.'],
  'too-many-addresses': [429, 'Many addresses were asked for in a short time. It goes on in a moment.'],
  'database-gone': [503, 'The database cannot be reached. It is tried again; nothing is lost.'],
  'disk-full': [507, 'The server has no room left on its disk. What was saved stays saved.'],
  unexpected: [500, 'Something went wrong on the server. Nothing that was saved is lost.'],
} as const satisfies Record<string, readonly [number, string]>;

export type ProblemCode = keyof typeof PROBLEMS;
export const PROBLEM_CODES = Object.keys(PROBLEMS) as ProblemCode[];
