import { useViewSettings } from "../desk/use-view-settings";
import { ViewChoices } from "../desk/ViewChoices";

/** How the desk looks on this device, chosen before one sits at it. */
export function DeskView() {
  const [settings, change] = useViewSettings();
  return (
    <div className="grid gap-5">
      <ViewChoices settings={settings} onChange={change} />
    </div>
  );
}
