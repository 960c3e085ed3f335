using System.Data;
using Dapper;
using InnerCadence.Core.Music;

namespace InnerCadence.Storage.Schema;

internal sealed class IdHandler<T> : SqlMapper.TypeHandler<T> where T : struct, IId<T>
{
    public override T Parse(object value) => T.Of((long)value);

    public override void SetValue(IDbDataParameter parameter, T value) => (parameter.DbType, parameter.Value) = (DbType.Int64, value.Value);
}
