import { useParams } from 'react-router';
import { useMemberships } from '../api/queries';
import { HomeView } from './HomeView';
import { ShelfView } from './ShelfView';

/** A course: the shelf for its staff, the list of exercises for its students. */
export function CoursePage() {
  const { courseId = '' } = useParams();
  const membership = useMemberships().find((entry) => entry.courseId === courseId);
  return membership && membership.role !== 'student' ? (
    <ShelfView courseId={courseId} role={membership.role} />
  ) : (
    <HomeView courseId={courseId} />
  );
}
