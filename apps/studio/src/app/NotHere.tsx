import { ButtonLink } from '../ui/Button';
import { Empty, Page } from '../ui/Page';

export function NotHere() {
  return (
    <Page title="Nothing at this address" narrow>
      <Empty title="This address leads nowhere" action={<ButtonLink to="/">To Today</ButtonLink>}>
        It may have been mistyped, or what stood here was archived.
      </Empty>
    </Page>
  );
}
