import { t as tr } from '@lingui/core/macro';
/** Says that a cause is the shop's own, or changed by it. */
export function OfThisShop() {
  return (
    <span className="ml-2 rounded border-[1.5px] border-brass px-1.5 text-sm font-semibold whitespace-nowrap text-brass">
      {tr`this shop’s`}
    </span>
  );
}
