import { useSuppliers } from '../api/queries';

/** Names that a field for a supplier offers; others may be typed. */
export function SupplierNames({ id }: { id: string }) {
  const suppliers = useSuppliers();
  return (
    <datalist id={id}>
      {suppliers.data?.map((s) => (
        <option key={s.id} value={s.name} />
      ))}
    </datalist>
  );
}
