import { Header } from '../page/Header';
import { Empty } from '../page/states';

/** An address that leads nowhere. */
export function Nowhere() {
  return (
    <>
      <Header />
      <main>
        <Empty title="There is no such page." isPage>
          Follow the name at the top left to your course.
        </Empty>
      </main>
    </>
  );
}
