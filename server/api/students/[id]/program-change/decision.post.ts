import { decideProgramChange as declared } from '#shared/contract/acts/student'
import { decideProgramChange } from '../../../../acts/release'

export default serveAct(declared, decideProgramChange)
