import { Route, Routes } from "react-router";
import { useSession } from "./api/hooks";
import { BikePage } from "./planning/BikePage";
import { Ward } from "./planning/Ward";
import { Bench } from "./visits/Bench";
import { Shelf } from "./shelf/Shelf";
import { Frame } from "./workshop/Frame";
import { NotHere, Waiting, WentWrong } from "./workshop/States";
import { SignIn } from "./workshop/SignIn";

export function App() {
  const session = useSession();
  if (session.isPending) return <Waiting what="Opening the workshop" />;
  if (session.isError) {
    return <WentWrong error={session.error} again={() => void session.refetch()} />;
  }
  if (!session.data.signed_in) return <SignIn workshop={session.data.workshop} />;
  return (
    <Frame session={session.data}>
      <Routes>
        <Route path="/" element={<Ward mayWork={session.data.may_work} />} />
        <Route path="/bikes/:id" element={<BikePage mayWork={session.data.may_work} />} />
        <Route path="/visits/:id" element={<Bench mayWork={session.data.may_work} />} />
        <Route path="/shelf" element={<Shelf />} />
        <Route path="*" element={<NotHere />} />
      </Routes>
    </Frame>
  );
}
