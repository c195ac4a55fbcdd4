"use client";
import { Flex } from "@chakra-ui/react";
import { addStrain, removeStrain, renameStrain, toggleStrain } from "../../../../core/score";
import { Block } from "../parts";

import { Act } from "./Act";
import { LeftInput, LONGEST } from "./LeftInput";
import { useEdit, useFramed } from "./useForm";

export function Strains() {
  const { bar, place, before, label } = useFramed();
  const edit = useEdit();
  const rename = (name: string) => edit(`Strain ${label} renamed`, (t) => renameStrain(t, bar, name));
  return (
    <Block title="Strains">
      <Flex gap="6px" align="center" mb="6px">
        <LeftInput label="Name of the strain" value={label} max={LONGEST.name} width="90px" onLeave={rename} />
        <Act
          words={before && before.strain === place?.strain ? "new strain here" : "join with the one before"}
          step="Strains changed"
          make={(t) => toggleStrain(t, bar)}
        />
      </Flex>
      <Flex wrap="wrap" gap="5px">
        <Act
          words="add intro"
          step="Intro added"
          make={(t) => addStrain(t, "Intro", 4)}
          title="The tune's last four bars, before it"
        />
        <Act
          words="add vamp here"
          step="Vamp added"
          make={(t) => addStrain(t, "Vamp", 2, place?.strain)}
          title="Two bars to stay on until you nod"
        />
        <Act
          words="add tag"
          step="Tag added"
          make={(t) => addStrain(t, "Tag", 2)}
          title="The last two bars once more"
        />
        <Act words={`take ${label} out`} step={`Strain ${label} taken out`} make={(t) => removeStrain(t, bar)} />
      </Flex>
    </Block>
  );
}
