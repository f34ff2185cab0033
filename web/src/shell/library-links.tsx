import { Link } from 'react-router';

const link = 'whitespace-nowrap font-serif text-[15px] text-muted hover:text-ink';

/** The ways to all pictures, and to what is being drawn. */
export const LibraryLinks = ({ isLibrary = false }: { isLibrary?: boolean }) => (
  <>
    {!isLibrary && (
      <Link to="/library" className={link}>
        Library
      </Link>
    )}
    <Link to="/subjects" className={link}>
      Subjects
    </Link>
  </>
);
