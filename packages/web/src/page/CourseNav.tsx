import { NavLink } from 'react-router';

/** The rooms of a course, for its staff; they stand in the head of each. */
export function CourseNav({ courseId }: { courseId: string }) {
  const rooms = [
    ['', 'Shelf'],
    ['/people', 'People'],
    ['/marks', 'Marks'],
    ['/term', 'Term'],
    ['/log', 'Log'],
  ] as const;
  return (
    <nav aria-label="Course" className="flex flex-wrap gap-x-4">
      {rooms.map(([tail, words]) => (
        <NavLink
          key={tail}
          to={`/courses/${courseId}${tail}`}
          end
          className="border-b-2 border-transparent hover:text-ink aria-[current=page]:border-petrol aria-[current=page]:font-medium aria-[current=page]:text-ink"
        >
          {words}
        </NavLink>
      ))}
    </nav>
  );
}
